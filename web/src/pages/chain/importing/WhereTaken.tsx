import type { StageDocument } from '@saltline/contract'
import { Fragment } from 'react'

/**
 * Asked before anything else, since the same file means another antenna from another place: the chain as a line, with
 * its planes to choose from. A sweep taken in the shack is the usual case.
 */
export function WhereTaken({
  stages,
  plane,
  onPlane,
}: {
  stages: readonly StageDocument[]
  /** Null until somebody said so. */
  plane: number | null
  onPlane: (plane: number) => void
}) {
  const nameOf = (k: number): string =>
    k === stages.length
      ? 'at the feed point'
      : k === 0
        ? 'at the transmitter’s end'
        : `input of ${stages[k]!.name}`
  return (
    <fieldset>
      <legend className="mb-1.5 font-bold">Where was it measured?</legend>
      <div className="flex flex-wrap items-center gap-y-2 text-sm">
        {[...stages, null].map((stage, k) => (
          <Fragment key={stage?.id ?? 'feed point'}>
            <label
              title={nameOf(k)}
              className={`flex min-h-8 cursor-pointer items-center gap-1.5 rounded-full border px-2.5 ${
                k === plane ? 'border-tide bg-paper font-bold' : 'border-edge'
              }`}
            >
              <input
                type="radio"
                name="plane"
                className="accent-tide"
                checked={k === plane}
                onChange={() => onPlane(k)}
              />
              {k === 0 && stages.length > 0 ? (
                'transmitter’s end'
              ) : k === stages.length ? (
                'feed point'
              ) : (
                <span className="sr-only">{nameOf(k)}</span>
              )}
            </label>
            {stage && (
              <span className="flex items-center text-muted">
                <span aria-hidden className="h-[2px] w-2.5 bg-ink" />
                <span className="px-1">{stage.name}</span>
                <span aria-hidden className="h-[2px] w-2.5 bg-ink" />
              </span>
            )}
          </Fragment>
        ))}
      </div>
      {plane === null ? (
        <p className="mt-2 text-sm text-muted">
          Choose the place where the analyser was connected. What lies between it and the antenna is
          taken out by calculation.
        </p>
      ) : (
        <p className="mt-2 text-sm text-muted">Measured {nameOf(plane)}.</p>
      )}
    </fieldset>
  )
}
