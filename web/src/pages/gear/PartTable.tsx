import { Scroll } from '../../ui/Scroll.tsx'
import { decimals, formatPower, padLossDb, type PartClass, partClasses } from '@saltline/core'
import { Search } from 'lucide-react'
import { useState } from 'react'
import { partIcons } from '../../model/stages/pad.ts'
import { StageIcon } from '../../spine/StageIcon.tsx'

const COLUMNS_MHZ = [3.5, 14, 30, 145, 435]

const lossAt = ({ pointsDb, maxMhz }: PartClass, mhz: number): string =>
  mhz > maxMhz || mhz < pointsDb[0]![0] / 2
    ? '–'
    : decimals(
        padLossDb(
          { kind: 'pad', lossDb: 0, points: pointsDb.map(([m, db]) => [m * 1e6, db]) },
          mhz * 1e6,
        ),
        3,
      )

/** What its case may take: on the lowest and on the highest frequency that is stated. */
function powerText({ ratedPowerW }: PartClass): string {
  const [low, high] = [ratedPowerW[0]!, ratedPowerW.at(-1)!]
  return low[1] === high[1]
    ? formatPower(low[1])
    : `${formatPower(low[1])} at ${low[0]} MHz, ${formatPower(high[1])} at ${high[0]}`
}

const voltageText = ({ ratedVoltageRms, firingVoltageDc }: PartClass): string =>
  ratedVoltageRms
    ? `${ratedVoltageRms} V rms`
    : firingVoltageDc
      ? `fires at ${firingVoltageDc} V peak`
      : 'not known'

/** Connectors, arresters, switches, filters, chokes and meters: what each takes, and what it stands. */
export function PartTable() {
  const [query, setQuery] = useState('')
  const words = query.toLowerCase().split(/\s+/).filter(Boolean)
  const shown = partClasses.filter(({ name, part, note }) =>
    words.every((word) => `${name} ${part} ${note}`.toLowerCase().includes(word)),
  )
  return (
    <section aria-label="Parts" className="border-t border-rule px-5 py-3">
      <div className="flex flex-wrap items-end gap-4">
        <label className="relative w-72">
          <span className="mb-0.5 block text-xs text-muted">Search by name or kind</span>
          <input
            className="field pl-8"
            value={query}
            placeholder="arrester, N, choke…"
            onChange={(event) => setQuery(event.target.value)}
          />
          <Search size={15} aria-hidden className="absolute bottom-2 left-2.5 text-muted" />
        </label>
        <p className="pb-1.5 text-sm text-muted">
          Typical of each class, not of any one make. A new stage takes its loss from here.
        </p>
      </div>
      <Scroll label="Parts" className="mt-3">
        <table className="w-full text-right text-sm">
          <thead>
            <tr className="text-muted [&>th]:font-normal">
              <td colSpan={2} />
              <th
                colSpan={COLUMNS_MHZ.length}
                scope="colgroup"
                className="border-b border-rule pb-1"
              >
                insertion loss in dB, at MHz
              </th>
              <td colSpan={3} />
            </tr>
            <tr className="border-b border-rule text-muted [&>th]:py-1.5 [&>th]:pl-3 [&>th]:font-normal">
              <th scope="col" className="!pl-0 text-left" colSpan={2}>
                part
              </th>
              {COLUMNS_MHZ.map((mhz) => (
                <th key={mhz} scope="col">
                  {mhz}
                </th>
              ))}
              <th scope="col">average power</th>
              <th scope="col">voltage</th>
              <th scope="col" className="text-left">
                worth knowing
              </th>
            </tr>
          </thead>
          <tbody>
            {shown.map((entry) => (
              <tr
                key={entry.id}
                className="border-b border-rule [&>td]:py-1 [&>td]:pl-3 [&>td]:whitespace-nowrap"
              >
                <td className="w-8 !pl-0 text-left text-muted">
                  <StageIcon strokes={partIcons[entry.part]} />
                </td>
                <th scope="row" className="py-1 text-left font-normal">
                  {entry.name}
                </th>
                {COLUMNS_MHZ.map((mhz) => (
                  <td key={mhz}>{lossAt(entry, mhz)}</td>
                ))}
                <td>{powerText(entry)}</td>
                <td>{voltageText(entry)}</td>
                <td className="text-left text-muted !whitespace-normal">{entry.note}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {shown.length === 0 && (
          <p className="py-4 text-muted">No part like “{query}”. Try its kind: connector, choke…</p>
        )}
      </Scroll>
    </section>
  )
}
