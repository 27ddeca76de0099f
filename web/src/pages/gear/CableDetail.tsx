import { ChartView } from '../../ui/chart/ChartView.tsx'
import { lossChart } from './lossChart.ts'
import { act } from '../../platform/act.ts'
import type { Station } from '@saltline/contract'
import {
  attenuationDbPer100m,
  decimals,
  formatDb,
  formatFrequency,
  formatLength,
  formatPower,
  lengthForLoss,
} from '@saltline/core'
import { useMemo, useState } from 'react'
import { addGear, deleteGear, restoreGear } from '../../platform/api/queries.ts'
import { useUnits } from '../../platform/preferences.ts'
import { FigureList } from '../../ui/FigureList.tsx'
import { DecibelField, FrequencyField } from '../../ui/quantities.tsx'
import type { CableRow } from './cableRow.ts'
import { CablePrice } from './CablePrice.tsx'
import { LossTable } from './LossTable.tsx'

/** One cable closely: its curve beside others, its figures, how long it may be, what it costs me. */
export function CableDetail({
  row,
  others,
  station,
  onCopied,
}: {
  row: CableRow
  others: readonly CableRow[]
  station: Station
  onCopied: (id: string) => void
}) {
  const chart = useMemo(() => {
    const all = [row, ...others]
    return lossChart(
      all.map(({ name, cable, sheet }) => ({
        name,
        cable,
        ...(sheet && all.length === 1 && { points: sheet.pointsDbPer100m }),
      })),
      `Loss over frequency of ${all.map(({ name }) => name).join(', ')}`,
    )
  }, [row, others])
  const copy = () =>
    act(async () => {
      const { z0Ohm, velocityFactor, k1DbPer100m, k2DbPer100m, maxHz } = row.cable
      const name = `${row.name}, custom`.slice(0, 80)
      const document = { name, z0Ohm, velocityFactor, k1DbPer100m, k2DbPer100m, maxHz }
      const { id } = await addGear(station.id, { kind: 'cable', document })
      onCopied(id)
      return {
        said: `“${name}” is now a custom cable of the station.`,
        undo: () => deleteGear(id),
      }
    })
  const remove = () =>
    act(async () => {
      await deleteGear(row.id)
      return {
        said: `“${row.name}” is deleted. Chains keep the copy they took.`,
        undo: () => restoreGear(row.id),
      }
    })
  return (
    <section aria-label={row.name} className="min-h-0 space-y-4 overflow-y-auto px-5 py-3">
      <div className="flex items-baseline justify-between gap-3">
        <h2 className="text-lg font-bold">{row.name}</h2>
        {row.sheet ? (
          <button type="button" className="link text-sm" onClick={() => void copy()}>
            copy as a custom cable
          </button>
        ) : (
          <button type="button" className="link text-sm" onClick={() => void remove()}>
            delete
          </button>
        )}
      </div>
      <div className="relative h-56">
        <ChartView chart={chart} />
      </div>
      <Figures row={row} />
      <CablePrice key={row.id} row={row} station={station} />
      <LengthCalculator row={row} />
      <LossTable row={row} station={station} />
    </section>
  )
}

function Figures({ row }: { row: CableRow }) {
  const { cable, sheet } = row
  const law = `${decimals(cable.k1DbPer100m, 3)}·√f + ${decimals(cable.k2DbPer100m, 5)}·f`
  return (
    <div className="grid gap-x-6 sm:grid-cols-2">
      <FigureList
        rows={[
          ['Impedance', `${decimals(cable.z0Ohm, 0)} Ω`],
          ['Velocity factor', decimals(cable.velocityFactor, 2)],
          ['dB per 100 m, f in MHz', law],
          ...(sheet
            ? ([
                ['Capacitance', `${sheet.capacitancePfPerM} pF/m`],
                ['Rated voltage, RMS', `${sheet.ratedVoltageRms} V`],
              ] as const)
            : []),
        ]}
      />
      {sheet ? (
        <FigureList
          rows={[
            ['Made of', `${sheet.dielectric}, ${sheet.shield}`],
            ['Outer diameter', `${sheet.outerMm} mm`],
            ['Weight', `${sheet.weightKgPer100m} kg/100 m`],
            ['Least bend', `${sheet.minBendMm} mm`],
            ['Temperature', `${decimals(sheet.minTemperatureC, 0)} to ${sheet.maxTemperatureC} °C`],
          ]}
        />
      ) : (
        <p className="text-sm text-muted">Custom cable: its ratings are not known.</p>
      )}
      {sheet && (
        <p className="mt-1 text-xs text-muted sm:col-span-2">
          Values typical of the class, not of any one make.
        </p>
      )}
    </div>
  )
}

/** How long may it be, for so many dB? */
function LengthCalculator({ row }: { row: CableRow }) {
  const { length } = useUnits()
  const [db, setDb] = useState(1)
  const [hz, setHz] = useState(14.2e6)
  const metres = lengthForLoss(attenuationDbPer100m(row.cable, hz), db)
  return (
    <div className="rounded-lg border border-rule p-3">
      <h3 className="mb-2 text-sm text-muted">How long may it be?</h3>
      <div className="grid grid-cols-[1fr_1fr_1.4fr] items-start gap-3">
        <DecibelField label="For a loss of" value={db} onChange={setDb} />
        <FrequencyField label="At" value={hz} onChange={setHz} />
        <p className="pt-4">
          <b className="text-xl">{formatLength(metres, length)}</b>
          <span className="block text-xs text-muted">
            then {formatPower(100 * 10 ** (-db / 10))} of 100 W come out, at {formatFrequency(hz)},{' '}
            {formatDb(db)} down
          </span>
        </p>
      </div>
    </div>
  )
}
