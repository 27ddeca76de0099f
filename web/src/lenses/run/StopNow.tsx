import { useEffect, useRef } from 'react'

/** Full width, nothing else to look at: why, what to do, and two ways on. */
export function StopNow({
  why,
  advice,
  onStop,
  onGoOn,
}: {
  why: string
  advice: string
  onStop: () => void
  onGoOn: () => void
}) {
  const box = useRef<HTMLDivElement>(null)
  useEffect(() => {
    box.current?.scrollIntoView({ block: 'nearest' })
  }, [])
  return (
    <div
      ref={box}
      role="alert"
      className="-mx-5 border-y-4 border-danger bg-sheet px-5 py-4 sm:-mx-10 sm:px-10"
    >
      <p className="text-[34px] leading-tight font-bold text-danger">▲ Unkey now</p>
      <p className="mt-1 max-w-2xl text-lg">{why}</p>
      <p className="max-w-2xl text-muted">{advice}</p>
      <div className="mt-3 flex flex-wrap gap-3">
        <button type="button" className="button min-h-12 border-danger" onClick={onStop}>
          Stop the run here
        </button>
        <button type="button" className="button min-h-12" onClick={onGoOn}>
          It is unkeyed, and I know why: go on
        </button>
      </div>
    </div>
  )
}
