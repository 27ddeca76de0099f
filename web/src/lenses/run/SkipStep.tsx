import { useState } from 'react'

/** A step may be left out, with a reason that stays in the record. */
export function SkipStep({ busy, onSkip }: { busy: boolean; onSkip: (why: string) => void }) {
  const [why, setWhy] = useState<string | null>(null)
  if (why === null)
    return (
      <button type="button" className="quiet min-h-10" onClick={() => setWhy('')}>
        skip, with a reason
      </button>
    )
  return (
    <span className="flex flex-wrap items-center gap-2">
      <input
        className="field w-56"
        autoFocus
        aria-label="Why it is skipped"
        placeholder="why?"
        maxLength={200}
        value={why}
        onChange={({ target }) => setWhy(target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Escape') setWhy(null)
        }}
      />
      <button
        type="button"
        className="button min-h-10"
        disabled={why.trim() === '' || busy}
        onClick={() => onSkip(why.trim())}
      >
        Skip
      </button>
    </span>
  )
}
