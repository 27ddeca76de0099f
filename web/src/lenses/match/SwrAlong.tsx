import { beyondTuner } from '../../model/answers.ts'
import type { ChainDocument } from '@saltline/contract'
import { type Answer, formatImpedance, formatSwr } from '@saltline/core'
import { rangeText } from '../../model/wattsText.ts'

/** Nobody needs to tell 200 from 1 000 by the length of a bar. */
const MOST = 60

/**
 * SWR at every plane, from the radio to the antenna: where it jumps, a tuner or an amplifier stands, and
 * everything beyond carries what the antenna makes it carry.
 */
export function SwrAlong({
  document,
  answer: { solution, spread },
}: {
  document: ChainDocument
  answer: Answer
}) {
  const { stages, load } = document
  const length = (swr: number) =>
    Math.max(1.5, (Math.log(Math.min(swr, MOST)) / Math.log(MOST)) * 100)
  return (
    <ol aria-label="SWR at every plane" className="text-sm">
      {solution.planes.map(({ swr, impedanceOhm }, k) => {
        const beyond = beyondTuner(stages, k)
        const before = stages[k - 1]
        const cut =
          before && !before.bypassed && (before.kind === 'tuner' || before.kind === 'amplifier')
        return (
          <li key={k}>
            {cut && (
              <p className="flex items-center gap-2 py-1 font-bold">
                <span className="h-px flex-1 bg-ink" aria-hidden />
                {before.name}
                <span className="h-px flex-1 bg-ink" aria-hidden />
              </p>
            )}
            <div
              className={`grid items-center gap-2 py-px ${beyond ? 'grid-cols-[8.5rem_1fr]' : spread ? 'grid-cols-[8.5rem_1fr_6.5rem]' : 'grid-cols-[8.5rem_1fr_3rem]'}`}
            >
              <span className="truncate">
                {k === 0
                  ? 'at the radio'
                  : k === stages.length
                    ? load.name
                    : `after ${before!.name}`}
              </span>
              {!beyond && (
                <span
                  aria-hidden
                  className={`h-2 rounded-r ${swr > 3 ? 'hatched text-returned' : 'bg-tide'}`}
                  style={{ width: `${length(swr)}%` }}
                />
              )}
              <b className="text-right">
                {beyond
                  ? formatImpedance(impedanceOhm)
                  : rangeText(swr, spread?.planes[k]!.swr, formatSwr)}
              </b>
            </div>
          </li>
        )
      })}
    </ol>
  )
}
