import { useEffect, useState } from 'react'
import type { ReadReply } from './readWorker.ts'

/** Reads a file in a worker; null while it is being read. Another file, or leaving, stops it. */
export function useReadSweep(file: File): ReadReply | null {
  const [reply, setReply] = useState<{ file: File; reply: ReadReply } | null>(null)
  useEffect(() => {
    const worker = new Worker(new URL('./readWorker.ts', import.meta.url), { type: 'module' })
    worker.onmessage = ({ data }: MessageEvent<ReadReply>) => setReply({ file, reply: data })
    worker.postMessage(file)
    return () => worker.terminate()
  }, [file])
  return reply?.file === file ? reply.reply : null
}
