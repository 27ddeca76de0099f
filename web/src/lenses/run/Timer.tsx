import { useEffect, useRef } from 'react'
import { clockOf } from './useStopwatch.ts'

/** A time readable across a room; rest counts down, key-down counts up. */
export function Timer({
  seconds,
  of,
  rest,
  sound,
}: {
  seconds: number
  of: number
  rest: boolean
  sound: boolean
}) {
  const over = seconds >= of
  const rang = useRef(false)
  useEffect(() => {
    if (over && sound && !rang.current) beep()
    rang.current = over
  }, [over, sound])
  const late = !rest && seconds > of
  return (
    <div role="timer" aria-label={rest ? 'Rest' : 'Key down'}>
      <p className="text-sm text-muted">{rest ? 'rest' : 'key down'}</p>
      <p className={`text-[44px] leading-none font-bold ${late ? 'text-danger' : ''}`}>
        {rest ? clockOf(Math.max(0, of - seconds)) : clockOf(seconds)}
        <span className="pl-3 text-xl font-normal text-muted">
          {rest ? (over ? 'rested' : `of ${clockOf(of)}`) : `of ${clockOf(of)}`}
        </span>
      </p>
      <div className="mt-1 h-2 max-w-80 overflow-hidden rounded bg-rule">
        <div
          className={`h-full ${late ? 'bg-danger' : 'bg-tide'}`}
          style={{ width: `${Math.min(100, (100 * seconds) / of)}%` }}
        />
      </div>
    </div>
  )
}

/** A short tone; nothing where the browser has no sound. */
function beep(): void {
  try {
    const audio = new AudioContext()
    const tone = audio.createOscillator()
    tone.frequency.value = 660
    tone.connect(audio.destination)
    tone.start()
    tone.stop(audio.currentTime + 0.25)
  } catch {
    // The eyes have it.
  }
}
