import { clockOf } from './clockOf.ts'

/** The key: pressed it is down, pressed again it is up. */
export function KeyButton({
  down,
  seconds,
  onKey,
}: {
  down: boolean
  /** How long it has been down. */
  seconds: number
  onKey: (down: boolean) => void
}) {
  return (
    <div>
      <button
        type="button"
        aria-pressed={down}
        aria-label={down ? 'Unkey' : 'Key'}
        className={`min-h-14 w-full rounded-lg border-2 border-danger text-lg font-bold ${down ? 'bg-danger text-sheet' : 'bg-sheet text-danger'}`}
        onClick={() => onKey(!down)}
      >
        {down ? `KEYED · ${clockOf(seconds)}` : 'KEY'}
      </button>
      <p className="mt-1 text-center text-xs text-muted max-sm:hidden">or the k key</p>
    </div>
  )
}
