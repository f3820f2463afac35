"""What OpenCV and pymatting make of the pictures in a folder, and how long they take.

Reads NAME.photo.png, NAME.labels.png, NAME.trimap.png, NAME.mask.png, NAME.large.png and NAME.truth.png, writes NAME.grabcut.png and NAME.alpha (float32, row by
row), and prints the seconds of each step as JSON.
"""

import json
import pathlib
import sys
import time

import cv2
import numpy as np
import pymatting
import scipy.sparse

GRABCUT_ROUNDS = 5
# weights of what is known, as estimate_alpha_cf has it, and of the pull to the mask
SURE, PULL = 100.0, 0.01


def best(run, times=3):
    """The result of a run, and the seconds of the quickest of several."""
    seconds = []
    for _ in range(times):
        start = time.perf_counter()
        result = run()
        seconds.append(time.perf_counter() - start)
    return result, min(seconds)


def grabcut(photo, labels):
    mask = labels.copy()
    back, front = np.zeros((1, 65)), np.zeros((1, 65))
    cv2.grabCut(photo, mask, None, back, front, GRABCUT_ROUNDS, cv2.GC_INIT_WITH_MASK)
    return (mask & 1) * np.uint8(255)


def closed_form(colours, trimap, mask):
    """estimate_alpha_cf, with the same pull to a mask in the unknown pixels as the chain has."""
    known = (trimap == 0) | (trimap == 1)
    weight = np.where(known, SURE, PULL).ravel()
    laplacian = pymatting.cf_laplacian(colours, 1e-7, 1, known)
    system = laplacian + scipy.sparse.diags(weight)
    right = weight * np.where(known, trimap, mask).ravel()
    alpha = pymatting.cg(system, right, M=pymatting.ichol(system))
    return np.clip(alpha, 0, 1).reshape(trimap.shape)


def main(folder):
    # compiled at the first call, which must not count
    warm = np.random.default_rng(1).random((32, 32, 3))
    pymatting.estimate_foreground_ml(warm, warm[:, :, 0])
    figures = {}
    for photo_file in sorted(folder.glob("*.photo.png")):
        name = photo_file.name.removesuffix(".photo.png")
        gray = lambda kind: cv2.imread(str(folder / f"{name}.{kind}.png"), cv2.IMREAD_GRAYSCALE)
        photo = cv2.imread(str(photo_file))
        found, cut = best(lambda: grabcut(photo, gray("labels")))
        cv2.imwrite(str(folder / f"{name}.grabcut.png"), found)
        trimap = gray("trimap") / 255
        trimap[(trimap > 0) & (trimap < 1)] = 0.5
        colours = photo[:, :, ::-1] / 255
        mask = (gray("mask") > 127).astype(float)
        alpha, matting = best(lambda: closed_form(colours, trimap, mask))
        alpha.astype(np.float32).tofile(folder / f"{name}.alpha")
        large = cv2.imread(str(folder / f"{name}.large.png"))[:, :, ::-1] / 255
        truth = gray("truth") / 255
        _, colour = best(lambda: pymatting.estimate_foreground_ml(large, truth))
        figures[name] = {"grabcut": cut, "closed_form": matting, "foreground": colour}
    print(json.dumps(figures))


main(pathlib.Path(sys.argv[1]))
