import { useState } from 'react'
import { Timer } from './Timer.tsx'
import type { useStopwatch } from './useStopwatch.ts'

/** How long a step is held or rested, and the press that keys. */
export function StepHold({
  seconds,
  rest,
  watch,
  blocked,
}: {
  seconds: number
  rest: boolean
  watch: ReturnType<typeof useStopwatch>
  /** Something stands against keying. */
  blocked: boolean
}) {
  const [sound, setSound] = useState(false)
  return (
    <div className="flex flex-wrap items-end gap-4">
      <Timer seconds={watch.seconds} of={seconds} rest={rest} sound={sound} />
      {!rest && (
        <button
          type="button"
          className="button min-h-10"
          disabled={blocked}
          aria-pressed={watch.running}
          onClick={watch.running ? watch.stop : watch.start}
        >
          {watch.running ? 'Unkeyed' : 'Key down'}
        </button>
      )}
      <label className="flex min-h-10 items-center gap-2 text-sm">
        <input
          type="checkbox"
          className="accent-tide"
          checked={sound}
          onChange={({ target }) => setSound(target.checked)}
        />
        sound at the end
      </label>
    </div>
  )
}
