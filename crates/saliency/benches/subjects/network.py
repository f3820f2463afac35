"""What onnxruntime sees in one look of the network, and how long that takes, on as many threads as it likes.

Reads the model and a picture (320 x 320 x 3 bytes), writes the first output from 0 to 1 (float32), and prints the seconds of the quickest of several
looks.
"""

import sys
import time

import numpy as np
import onnxruntime

LOOKS = 7
MEAN, DEVIATION = (0.485, 0.456, 0.406), (0.229, 0.224, 0.225)

model, given, seen = sys.argv[1:]
session = onnxruntime.InferenceSession(model, providers=["CPUExecutionProvider"])
picture = np.fromfile(given, np.uint8).reshape(320, 320, 3).astype(np.float32)
picture = (picture / picture.max() - np.float32(MEAN)) / np.float32(DEVIATION)
picture = np.ascontiguousarray(picture.transpose(2, 0, 1)[None])
seconds = []
for _ in range(LOOKS):
    start = time.perf_counter()
    (out,) = session.run([session.get_outputs()[0].name], {session.get_inputs()[0].name: picture})
    seconds.append(time.perf_counter() - start)
out = (out - out.min()) / (out.max() - out.min())
out.astype(np.float32).tofile(seen)
print(min(seconds))
