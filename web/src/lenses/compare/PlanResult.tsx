import { ChartView } from '../../ui/chart/ChartView.tsx'
import { frontChart } from './frontChart.ts'
import { decimals, formatDb, formatFrequency, type PlanMember } from '@saltline/core'
import { useEffect, useMemo, useRef } from 'react'
import type { LensProps } from '../../editor/lens.ts'
import type { CableChoice } from '../../model/cableFacts.ts'
import { type Asked, plannedAlternative } from '../../model/planning.ts'
import { wattsText } from '../../model/wattsText.ts'
import { useUnits } from '../../platform/preferences.ts'

const standsAsIs = ({ cables, place }: PlanMember): boolean =>
  place === null && cables.every((id) => id === null)

/** What a plan has come to, in a sentence. */
export function foundText(front: readonly PlanMember[], unit: string): string {
  const [first] = front
  const best = front.reduce((least, own) => (own.lossDb < least.lossDb ? own : least), first!)
  if (!first) return 'Nothing that was ticked stays within the limit.'
  if (standsAsIs(best)) return 'Nothing that was ticked is better than the chain as it stands.'
  const cost = decimals(best.cost, best.cost > 0 && best.cost < 10 ? 1 : 0)
  return `${front.length} are worth their ${unit === 'kg' ? 'weight' : 'price'}; the best loses ${formatDb(best.lossDb)} for ${cost}\u00a0${unit}.`
}

export function Result({
  front,
  asked,
  document,
  channel,
  unit,
  full,
  done,
  onTake,
}: {
  done: boolean
  front: readonly PlanMember[]
  asked: Asked
  unit: string
  full: boolean
  onTake: (member: PlanMember) => void
} & Pick<LensProps, 'document' | 'channel'>) {
  const { power } = useUnits()
  const names = useMemo(
    () => front.map((member) => plannedAlternative(member, asked, document).name),
    [front, asked, document],
  )
  const chart = useMemo(() => frontChart(front, names, unit), [front, names, unit])
  const c = document.channels.findIndex(({ id }) => id === channel.id)
  // What was asked for is seen without looking for it.
  const box = useRef<HTMLDivElement>(null)
  useEffect(() => {
    if (done) box.current?.scrollIntoView({ block: 'nearest' })
  }, [done])
  if (front.length === 0) return null
  return (
    <div ref={box} className="mt-3 grid gap-6 three:grid-cols-[minmax(0,5fr)_minmax(0,6fr)]">
      <div className="relative h-64">
        <ChartView chart={chart} />
      </div>
      <div className="overflow-x-auto">
        <table className="w-full text-right text-sm" aria-label="Worth its price">
          <thead className="text-muted">
            <tr className="border-b border-rule [&>th]:py-1 [&>th]:pl-2 [&>th]:font-normal">
              <th scope="col" className="!pl-0 text-left">
                nothing better for as little
              </th>
              <th scope="col">{unit}</th>
              <th scope="col">loss</th>
              <th scope="col">{formatFrequency(channel.frequencyHz)}</th>
            </tr>
          </thead>
          <tbody>
            {front.map((member, i) => (
              <tr key={i} className="border-b border-rule [&>td]:py-1 [&>td]:pl-2">
                <th scope="row" className="py-1 text-left font-normal">
                  {standsAsIs(member) ? (
                    'As it stands'
                  ) : (
                    <button
                      type="button"
                      className="link min-h-6 text-left"
                      title="Make it an alternative"
                      disabled={full}
                      onClick={() => onTake(member)}
                    >
                      {names[i]}
                    </button>
                  )}
                </th>
                <td>{decimals(member.cost, member.cost > 0 && member.cost < 10 ? 1 : 0)}</td>
                <td>{formatDb(member.lossDb)}</td>
                <td>{wattsText(member.antennaW[c]!, power)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </div>
  )
}

/** What could not be planned with, since nobody knows what it costs. */
export function Unknown({
  ids,
  choices,
  tuner,
  by,
}: {
  ids: readonly string[]
  choices: readonly CableChoice[]
  tuner: boolean
  by: 'price' | 'weight'
}) {
  if (ids.length === 0 && !tuner) return null
  const names = ids.map((id) => choices.find((choice) => choice.id === id)?.name ?? id)
  return (
    <p className="mt-2 max-w-3xl text-sm text-muted">
      {names.length > 0 &&
        `Left out, since ${by === 'price' ? 'a price of cable or connectors' : 'their weight'} is not known: ${names.join(', ')}. `}
      {tuner && 'The tuner was left out, since its price is not known. '}
      {by === 'price' && 'Prices are entered in Gear.'}
    </p>
  )
}
