import type { Sentence } from '../types/Sentence'
import { shutDoor } from '../door/door'
import { Away, AWAY, Refused } from './client'

export interface Upload<T> {
  done: Promise<T>
  cancel: () => void
}

/** Sends a file. `progress` hears the share that is sent, 0 to 1. */
export function uploadFile<T>(kind: 'photos' | 'drawings' | 'fonts', file: File, progress: (share: number) => void): Upload<T> {
  // fetch says nothing of how far an upload is
  const request = new XMLHttpRequest()
  const done = new Promise<T>((resolve, reject) => {
    request.upload.onprogress = (e) => {
      if (e.lengthComputable) progress(e.loaded / e.total)
    }
    request.onload = () => {
      let said: unknown = null
      try {
        said = JSON.parse(request.responseText)
      } catch {
        // not our answer
      }
      if (request.status === 200) resolve(said as T)
      else if (request.status === 401) {
        shutDoor()
        reject(new Away((said as Sentence | null)?.sentence ?? AWAY))
      } else if (request.status === 503) reject(new Away((said as Sentence | null)?.sentence ?? AWAY))
      else reject(new Refused((said as Sentence | null)?.sentence ?? 'The file was not taken in.', request.status))
    }
    request.onerror = () =>
      reject(new Refused(`The upload of “${file.name}” was cut off. Nothing was changed; bring it in again.`, 0))
    request.onabort = () => reject(new Refused(`The upload of “${file.name}” was cancelled.`, 0))
  })
  request.open('POST', `/api/${kind}?name=${encodeURIComponent(file.name)}`)
  request.setRequestHeader('content-type', 'application/octet-stream')
  request.send(file)
  return { done, cancel: () => request.abort() }
}
