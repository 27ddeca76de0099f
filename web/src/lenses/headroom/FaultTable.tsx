import type { ChainDocument } from '@saltline/contract'
import { decimals, type Fault, formatSwr, standingOf, type Stress } from '@saltline/core'
import { headroomText, kindName, partName } from '../../model/headroomWords.ts'

function faultName({ kind, plane }: Fault, document: ChainDocument, worstSwr: number): string {
  switch (kind) {
    case 'open':
      return `${document.load.name} gone, open end`
    case 'short':
      return `${document.load.name} shorted`
    case 'joint':
      return `joint at the input of ${document.stages[plane]!.name} open`
    case 'worstSwr':
      return `SWR ${formatSwr(worstSwr)} at the antenna, worst phase`
  }
}

function soonText({ soonS, unheld }: Fault): string {
  if (unheld === null || standingOf(unheld) !== 'over') return ''
  if (soonS === 0) return 'at once'
  if (soonS === null) return 'by heating, time not known'
  return soonS < 90 ? `in ${decimals(soonS, 0)} s` : `in ${decimals(soonS / 60, 0)} minutes`
}

/** Every way it can fail: what goes first, and whether the foldback saves it. */
export function FaultTable({
  document,
  faults,
  worstSwr,
}: {
  document: ChainDocument
  faults: readonly Fault[]
  worstSwr: number
}) {
  const cell = (stress: Stress | null) => {
    if (stress === null) return <span className="text-muted">? no limit known</span>
    const over = standingOf(stress) === 'over'
    return (
      <span className={over ? 'text-danger' : ''}>
        {over ? '▲ ' : '○ '}
        {partName(document, stress.part)} {kindName(stress)}, {headroomText(stress)}
      </span>
    )
  }
  return (
    <table className="w-full text-sm">
      <thead className="text-muted">
        <tr className="border-b border-rule text-left [&>th]:py-1 [&>th]:pr-2 [&>th]:font-normal">
          <th scope="col">when this fails</th>
          <th scope="col">with foldback</th>
          <th scope="col">if it fails too</th>
          <th scope="col">how soon</th>
        </tr>
      </thead>
      <tbody>
        {faults.map((fault) => (
          <tr
            key={`${fault.kind}-${fault.plane}`}
            className="border-b border-rule align-top [&>*]:py-1 [&>*]:pr-2"
          >
            <th scope="row" className="text-left font-normal">
              {faultName(fault, document, worstSwr)}
            </th>
            <td>{cell(fault.held)}</td>
            <td>{cell(fault.unheld)}</td>
            <td className="text-muted">{soonText(fault)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** What stands between a broken antenna and a broken station, in a sentence. */
export function faultVerdict(document: ChainDocument, faults: readonly Fault[]): string {
  const over = (stress: Stress | null) => stress !== null && standingOf(stress) === 'over'
  const broken = faults.filter(({ kind }) => kind !== 'worstSwr')
  const held = broken.find((fault) => over(fault.held))
  if (held)
    return `If it fails, ${partName(document, held.held!.part)} goes first in spite of the foldback: ${kindName(held.held!)}, ${headroomText(held.held!)}.`
  const saved = broken.find((fault) => over(fault.unheld))
  if (saved)
    return `If it fails, only the foldback protects ${partName(document, saved.unheld!.part)}; without it, it would be ${headroomText(saved.unheld!)}.`
  return broken.every(({ unheld }) => unheld !== null)
    ? 'No fault of the antenna or of a joint would break a part at this power.'
    : 'What a fault would break cannot be said: limits are not known.'
}
