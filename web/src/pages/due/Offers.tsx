import { dayText, type OfferedDuty } from '@saltline/contract'
import { useState } from 'react'
import { bodyOf, howOften, offersByKind } from '../../model/duties.ts'
import { act } from '../../platform/act.ts'
import { addDuty, declineDuty, deleteDuty } from '../../platform/api/dutyQueries.ts'
import { DutyDialog } from '../../duties/DutyDialog.tsx'

/** What ships and fits, once: taken as it is, changed first, or declined. */
export function Offers({
  stationId,
  offers,
}: {
  stationId: string
  offers: readonly OfferedDuty[]
}) {
  const [changed, setChanged] = useState<OfferedDuty | null>(null)
  if (offers.length === 0) return null
  const add = (taken: readonly OfferedDuty[]) =>
    void act(async () => {
      const ids: string[] = []
      for (const offer of taken) ids.push(await addDuty(stationId, bodyOf(offer)))
      return {
        said: `“${taken[0]!.title}” is due ${howOften(taken[0]!)} now.`,
        undo: async () => {
          for (const id of ids) await deleteDuty(id)
        },
      }
    })
  const decline = (offer: OfferedDuty) =>
    void act(async () => {
      await declineDuty(stationId, offer.shipped)
      return {
        said: `“${offer.title}” is not offered again.`,
        undo: () => addDuty(stationId, bodyOf(offer)),
      }
    })
  return (
    <section aria-label="Offered">
      <h3 className="border-b border-ink pb-1 font-bold">Offered for this station</h3>
      {offersByKind(offers).map((kind) => (
        <div key={kind[0]!.title} className="border-b border-rule py-2 text-sm">
          <p className="flex flex-wrap items-baseline justify-between gap-x-3">
            <span>
              <b>{kind[0]!.title}</b>
              <span className="text-muted"> · {howOften(kind[0]!)}</span>
            </span>
            {kind.length > 1 && (
              <button
                type="button"
                className="link min-h-6 min-w-6"
                aria-label={`Add all ${kind.length}: ${kind[0]!.title}`}
                onClick={() => add(kind)}
              >
                add all {kind.length}
              </button>
            )}
          </p>
          <ul>
            {kind.map((offer) => (
              <li key={offer.shipped} className="flex flex-wrap items-baseline gap-x-3 py-0.5">
                <span className="min-w-28 flex-1 text-muted">
                  {offer.chain ?? 'the whole station'}
                  {offer.last !== null && `, last done ${dayText(offer.last)}`}
                </span>
                <button
                  type="button"
                  className="link min-h-6 min-w-6"
                  aria-label={`Add: ${about(offer)}`}
                  onClick={() => add([offer])}
                >
                  add
                </button>
                <button
                  type="button"
                  className="link min-h-6 min-w-6"
                  aria-label={`Change and add: ${about(offer)}`}
                  onClick={() => setChanged(offer)}
                >
                  change
                </button>
                <button
                  type="button"
                  className="link min-h-6 min-w-6"
                  aria-label={`Not needed: ${about(offer)}`}
                  onClick={() => decline(offer)}
                >
                  not needed
                </button>
              </li>
            ))}
          </ul>
        </div>
      ))}
      {changed && (
        <DutyDialog stationId={stationId} duty={changed} onClose={() => setChanged(null)} />
      )}
    </section>
  )
}

const about = ({ title, chain }: OfferedDuty): string =>
  chain === null ? title : `${title}, ${chain}`
