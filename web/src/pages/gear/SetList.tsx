import { behaviourText } from '../../model/behaviourText.ts'
import { act } from '../../platform/act.ts'
import type { Gear, Station } from '@saltline/contract'
import {
  formatCapacitance,
  formatDb,
  formatInductance,
  formatPower,
  formatSwr,
} from '@saltline/core'
import { Trash2 } from 'lucide-react'
import { deleteGear, restoreGear } from '../../platform/api/queries.ts'
import { gearOf } from '../../panel/FromGear.tsx'

type Of<K extends Gear['kind']> = Extract<Gear, { kind: K }>['document']

const transmitterFacts = ({ ratedW, behaviour, foldback, builtInTuner }: Of<'transmitter'>) => [
  `${formatPower(ratedW)} PEP`,
  behaviourText[behaviour],
  foldback.length > 0 ? `foldback from SWR ${formatSwr(firstFall(foldback))}` : 'no foldback',
  ...(builtInTuner ? [`tuner inside, to SWR ${formatSwr(builtInTuner.reachSwr)}`] : []),
]

/** The last SWR at which there is still full power. */
const firstFall = (foldback: Of<'transmitter'>['foldback']): number =>
  foldback.findLast(([, fraction]) => fraction >= 0.999)?.[0] ?? 1

const amplifierFacts = ({ fullW, driveW, gainDb, ceilings = {}, tripSwr }: Of<'amplifier'>) => [
  `${formatPower(fullW)} PEP for ${formatPower(driveW)} of drive`,
  `gain ${formatDb(gainDb)}`,
  ...Object.entries(ceilings).map(([mode, watts]) => `${formatPower(watts)} on ${mode}`),
  ...(tripSwr ? [`off above SWR ${formatSwr(tripSwr)}`] : []),
]

function tunerFacts(tuner: Of<'tuner'>): string[] {
  const rated = tuner.ratedW ? [`${formatPower(tuner.ratedW)} PEP`] : []
  if (tuner.method === 'given') return [...rated, `${formatDb(tuner.lossDb)} whatever the load`]
  if (tuner.method === 'stepped')
    return [...rated, `${tuner.coilBits} coils and ${tuner.capacitorBits} capacitors by relays`]
  return [
    ...rated,
    `${tuner.network === 'pi' ? 'π' : tuner.network.replace('L-', 'L, ')} network`,
    `coil to ${formatInductance(tuner.coilH[1])}`,
    `capacitor to ${formatCapacitance(tuner.capacitorF[1])}`,
  ]
}

/** Radios, amplifiers and tuners that the station keeps; chains take copies of them. */
export function SetList({ station }: { station: Station }) {
  const groups = [
    {
      name: 'Radios',
      rows: gearOf(station, 'transmitter').map(({ id, document }) => ({
        id,
        name: document.name,
        facts: transmitterFacts(document),
      })),
    },
    {
      name: 'Amplifiers',
      rows: gearOf(station, 'amplifier').map(({ id, document }) => ({
        id,
        name: document.name,
        facts: amplifierFacts(document),
      })),
    },
    {
      name: 'Tuners',
      rows: gearOf(station, 'tuner').map(({ id, document }) => ({
        id,
        name: document.name,
        facts: tunerFacts(document),
      })),
    },
  ]
  const remove = (id: string, name: string) =>
    act(async () => {
      await deleteGear(id)
      return {
        said: `“${name}” is deleted. Chains keep the copy they took.`,
        undo: () => restoreGear(id),
      }
    })
  return (
    <section
      aria-label="Radios, amplifiers and tuners"
      className="border-t border-rule px-5 py-3 [&>*]:max-w-4xl"
    >
      <p className="text-sm text-muted">
        Press a radio, amplifier or tuner on a spine to take a copy of one of these, or to keep what
        is there.
      </p>
      {groups.map(({ name, rows }) => (
        <div key={name} className="mt-4">
          <h2 className="border-b border-ink pb-1 font-bold">{name}</h2>
          {rows.length === 0 && <p className="py-2 text-sm text-muted">None saved yet.</p>}
          <ul>
            {rows.map((row) => (
              <li
                key={row.id}
                className="flex items-center justify-between gap-3 border-b border-rule py-1.5"
              >
                <span>
                  {row.name} <span className="text-sm text-muted">{row.facts.join('; ')}</span>
                </span>
                <button
                  type="button"
                  className="quiet"
                  aria-label={`Delete ${row.name}`}
                  onClick={() => void remove(row.id, row.name)}
                >
                  <Trash2 size={14} aria-hidden />
                </button>
              </li>
            ))}
          </ul>
        </div>
      ))}
    </section>
  )
}
