import type { WorthSweep } from '@saltline/core'
import { useCallback, useEffect, useRef, useState } from 'react'
import type { MatchReply, MatchRequest } from './matchWorker.ts'

export const POINTS = 300

/** A number that is being dragged starts nothing until it rests, ms. */
const REST_MS = 200

export type MatchRun =
  | { state: 'running'; done: number }
  | { state: 'stopped' }
  | { state: 'done'; frequencyHz: Float64Array; sweep: WorthSweep }
  | { state: 'problem'; message: string }

const STARTING: MatchRun = { state: 'running', done: 0 }

interface Running {
  run: MatchRun
  stop: () => void
  start: () => void
}

/** Runs the sweep in a worker; a new request, or leaving, ends the one before. */
export function useMatchSweep(request: MatchRequest): Running {
  const [tagged, setTagged] = useState<{ of: MatchRequest; run: MatchRun } | null>(null)
  const worker = useRef<Worker | null>(null)
  const end = () => {
    worker.current?.terminate()
    worker.current = null
  }
  const start = useCallback(() => {
    end()
    const setRun = (run: MatchRun) => setTagged({ of: request, run })
    const own = new Worker(new URL('./matchWorker.ts', import.meta.url), { type: 'module' })
    worker.current = own
    own.onmessage = ({ data }: MessageEvent<MatchReply>) => {
      if (data.kind === 'progress') setRun({ state: 'running', done: data.done })
      else if (data.kind === 'done')
        setRun({ state: 'done', frequencyHz: data.frequencyHz, sweep: data.sweep })
      else setRun({ state: 'problem', message: data.message })
    }
    own.postMessage(request)
    setRun(STARTING)
  }, [request])
  useEffect(() => {
    const timer = setTimeout(start, REST_MS)
    return () => {
      clearTimeout(timer)
      end()
    }
  }, [start])
  const stop = () => {
    end()
    setTagged({ of: request, run: { state: 'stopped' } })
  }
  // What was worked out for another request does not stand under this one.
  const run = tagged?.of === request ? tagged.run : STARTING
  return { run, stop, start }
}
