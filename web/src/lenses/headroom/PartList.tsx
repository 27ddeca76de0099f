import type { ChainDocument } from '@saltline/contract'
import { standingOf, type Stress, type StressRange } from '@saltline/core'
import { useUnits } from '../../platform/preferences.ts'
import type { Selection } from '../../model/selection.ts'
import {
  figureOf,
  headroomText,
  kindName,
  partName,
  placeText,
  rangeOfStress,
  standingText,
} from '../../model/headroomWords.ts'

/** A bar this long stands for so much headroom, dB. */
const FULL_DB = 20

const order = ({ headroomDb, kind, stress, limit }: Stress): number =>
  kind === 'SWR' && limit !== null && stress > limit ? -Infinity : (headroomDb ?? Infinity)

/** Parts by their headroom, least first; what is not known comes last and is never fine. */
export function PartList({
  document,
  stresses,
  ranges,
  onSelect,
}: {
  document: ChainDocument
  stresses: readonly Stress[]
  /** Of the same stresses, and others; null where none are there. */
  ranges: readonly StressRange[] | null
  onSelect: (selection: Selection) => void
}) {
  const { length, power } = useUnits()
  const sorted = [...stresses].sort((a, b) => order(a) - order(b))
  const pick = (part: number) => {
    if (part < 0) onSelect({ kind: 'transmitter' })
    else if (part >= document.stages.length) onSelect({ kind: 'antenna' })
    else onSelect({ kind: 'stage', id: document.stages[part]!.id })
  }
  return (
    <table className="w-full text-sm">
      <thead className="text-muted">
        <tr className="border-b border-rule text-left [&>th]:py-1 [&>th]:font-normal">
          <th scope="col">part</th>
          <th scope="col" className="pl-2">
            standing
          </th>
          <th scope="col" className="pl-2 text-right">
            headroom
          </th>
          <th scope="col" className="w-24 pl-3 max-sm:hidden">
            <span className="sr-only">headroom drawn</span>
          </th>
          <th scope="col" className="pl-2 text-right">
            stress of limit
          </th>
        </tr>
      </thead>
      <tbody>
        {sorted.map((stress) => {
          const { part, kind, limit, basis, headroomDb } = stress
          const standing = standingOf(stress)
          const range = ranges?.find((own) => own.part === part && own.kind === kind)
          const tone =
            standing === 'over' ? 'text-danger' : standing === 'tight' ? 'text-caution' : ''
          return (
            <tr key={`${part}-${kind}`} className="border-b border-rule align-top">
              <th scope="row" className="py-1 text-left font-normal">
                <button
                  type="button"
                  className="text-left hover:text-tide"
                  onClick={() => pick(part)}
                >
                  {partName(document, part)}{' '}
                  <span className="text-muted">
                    {kindName(stress)}, {basis === 'mean' ? 'average' : basis}
                  </span>
                </button>
              </th>
              <td className={`py-1 pl-2 whitespace-nowrap ${tone}`}>{standingText[standing]}</td>
              <td className={`py-1 pl-2 text-right whitespace-nowrap ${tone}`}>
                {headroomDb === null ? '' : headroomText(stress)}
              </td>
              <td className="py-2 pl-3 max-sm:hidden">
                {headroomDb !== null && (
                  <span
                    aria-hidden
                    className={`block h-2.5 ${headroomDb < 0 ? 'bg-danger' : standing === 'tight' ? 'bg-caution' : 'bg-tide'}`}
                    style={{
                      width: `${Math.min(100, Math.max(3, (Math.abs(headroomDb) / FULL_DB) * 100))}%`,
                    }}
                  />
                )}
              </td>
              <td className="py-1 pl-2 text-right">
                {figureOf(stress, stress.stress, power)}{' '}
                <span className="text-muted">
                  of {limit === null ? 'unknown' : figureOf(stress, limit, power)}
                </span>
                {range && (
                  <span className="block text-xs text-muted">
                    {rangeOfStress(stress, range, power)}
                  </span>
                )}
                {stress.fromLoadM !== undefined && (
                  <span className="block text-xs text-muted">{placeText(stress, length)}</span>
                )}
              </td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}
