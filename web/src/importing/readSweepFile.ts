import type { ReadReply } from './reading.ts'

/** Reads one file in a worker of its own, which ends with it. Never rejects: what is wrong is a reply. */
export function readSweepFile(file: File): Promise<ReadReply> {
  const worker = new Worker(new URL('./readWorker.ts', import.meta.url), { type: 'module' })
  return new Promise<ReadReply>((resolve) => {
    worker.onmessage = ({ data }: MessageEvent<ReadReply>) => resolve(data)
    worker.onerror = ({ message }) => resolve({ kind: 'problem', message })
    worker.postMessage({ file })
  }).finally(() => worker.terminate())
}
