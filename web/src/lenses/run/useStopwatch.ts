import { useCallback, useEffect, useState } from 'react'

/** Seconds since it was started; stands still when stopped. */
export function useStopwatch(): {
  seconds: number
  running: boolean
  start: () => void
  stop: () => void
} {
  const [from, setFrom] = useState<number | null>(null)
  const [seconds, setSeconds] = useState(0)
  useEffect(() => {
    if (from === null) return
    const timer = setInterval(() => setSeconds((Date.now() - from) / 1000), 200)
    return () => clearInterval(timer)
  }, [from])
  const start = useCallback(() => {
    setSeconds(0)
    setFrom(Date.now())
  }, [])
  const stop = useCallback(() => setFrom(null), [])
  return { seconds, running: from !== null, start, stop }
}

/** m:ss */
export const clockOf = (seconds: number): string =>
  `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`
