import { ChartView } from '../../ui/chart/ChartView.tsx'
import { lossChart } from './lossChart.ts'
import {
  type AttenuationFit,
  decimals,
  fitAttenuation,
  formatPercent,
  InputError,
  type LossPer,
  readSheetTable,
  type SheetTable,
  lossLengths,
} from '@saltline/core'
import { useMemo, useState } from 'react'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { OhmField, PlainField } from '../../ui/quantities.tsx'

export interface Law {
  k1DbPer100m: number
  k2DbPer100m: number
  z0Ohm: number
  velocityFactor: number
  maxHz?: number | undefined
}

type FitResult =
  | { ok: true; fit: AttenuationFit; table: SheetTable }
  | { ok: false; message: string }
  | null

function readAndFit(text: string, per: LossPer, unit: SheetTable['unit']): FitResult {
  if (text.trim() === '') return null
  try {
    const table = readSheetTable(text, { per, unit })
    return { ok: true, table, fit: fitAttenuation(table.points) }
  } catch (error) {
    if (error instanceof InputError) return { ok: false, message: error.message }
    throw error
  }
}

export function FromSheet({ onLaw }: { onLaw: (law: Law | null) => void }) {
  const [text, setText] = useState('')
  const [per, setPer] = useState<LossPer>('100 m')
  const [unit, setUnit] = useState<SheetTable['unit']>('MHz')
  const [base, setBase] = useState({ z0Ohm: 50, velocityFactor: 0.66 })
  const result = useMemo(() => readAndFit(text, per, unit), [text, per, unit])
  const tell = (next: FitResult, lineBase = base) =>
    onLaw(
      next?.ok
        ? {
            ...lineBase,
            k1DbPer100m: next.fit.k1DbPer100m,
            k2DbPer100m: next.fit.k2DbPer100m,
            maxHz: Math.max(...next.table.points.map(([mhz]) => mhz)) * 1e6,
          }
        : null,
    )
  const change = (next: { text?: string; per?: LossPer; unit?: SheetTable['unit'] }) => {
    const now = { text, per, unit, ...next }
    setText(now.text)
    setPer(now.per)
    setUnit(now.unit)
    tell(readAndFit(now.text, now.per, now.unit))
  }
  const changeBase = (next: Partial<typeof base>) => {
    const now = { ...base, ...next }
    setBase(now)
    tell(result, now)
  }
  const chart = useMemo(() => {
    if (!result?.ok) return null
    const { points } = result.table
    const maxHz = Math.max(...points.map(([mhz]) => mhz)) * 1e6
    const fit = { name: 'fit', cable: { ...base, ...result.fit, maxHz }, points }
    return lossChart([fit], 'The fit through the points')
  }, [result, base])
  return (
    <div className="grid gap-4 sm:grid-cols-2">
      <div className="space-y-2">
        <label className="block">
          <span className="mb-0.5 block text-xs text-muted">
            Frequency and loss, a line each: paste or type
          </span>
          <textarea
            className="field h-32 font-[inherit]"
            value={text}
            placeholder={'MHz\tdB/100 m\n10\t4,8\n100\t16,1'}
            onChange={(event) => change({ text: event.target.value })}
          />
        </label>
        <input
          type="file"
          accept=".csv,.txt,.tsv"
          aria-label="Import the table from a file"
          className="file-input"
          onChange={(event) =>
            void event.target.files?.[0]?.text().then((content) => change({ text: content }))
          }
        />
        <div className="grid grid-cols-2 gap-2">
          <ChoiceField
            label="Loss per"
            value={result?.ok ? result.table.per : per}
            options={(Object.keys(lossLengths) as LossPer[]).map((value) => ({
              value,
              label: value,
            }))}
            onChange={(value) => change({ per: value })}
          />
          <ChoiceField
            label="Frequencies in"
            value={result?.ok ? result.table.unit : unit}
            options={(['kHz', 'MHz', 'GHz'] as const).map((value) => ({ value, label: value }))}
            onChange={(value) => change({ unit: value })}
          />
          <OhmField
            label="Impedance"
            within="z0Ohm"
            value={base.z0Ohm}
            onChange={(z0Ohm) => changeBase({ z0Ohm })}
          />
          <PlainField
            label="Velocity factor"
            value={base.velocityFactor}
            step={0.01}
            min={0.3}
            max={1}
            onChange={(velocityFactor) => changeBase({ velocityFactor })}
          />
        </div>
      </div>
      <div>
        {!result && (
          <p className="text-sm text-muted">
            Tabs, semicolons, commas or spaces; decimal points or commas; a heading with units is
            understood.
          </p>
        )}
        {result && !result.ok && (
          <p role="alert" className="text-sm text-danger">
            ⚠ {result.message}
          </p>
        )}
        {result?.ok && (
          <>
            <p className="text-sm">
              Taken as dB per {result.table.per}, frequencies in {result.table.unit}.
            </p>
            <div className="relative h-40">{chart && <ChartView chart={chart} />}</div>
            <FitTable fit={result.fit} />
          </>
        )}
      </div>
    </div>
  )
}

function FitTable({ fit }: { fit: AttenuationFit }) {
  return (
    <>
      <p className="my-1 text-sm">
        α = {decimals(fit.k1DbPer100m, 3)}·√f + {decimals(fit.k2DbPer100m, 5)}·f, off by{' '}
        {formatPercent(fit.rms)} on the whole
      </p>
      <table className="w-full text-right text-xs" aria-label="Residuals">
        <thead className="text-muted">
          <tr className="[&>th]:font-normal">
            <th scope="col">MHz</th>
            <th scope="col">dB/100 m</th>
            <th scope="col">fit</th>
            <th scope="col">off by</th>
          </tr>
        </thead>
        <tbody>
          {fit.points.map((p) => (
            <tr key={p.mhz} className={p.doubtful ? 'font-bold text-danger' : ''}>
              <td>{decimals(p.mhz, p.mhz < 10 ? 2 : 0)}</td>
              <td>{decimals(p.dbPer100m, 2)}</td>
              <td>{decimals(p.fittedDbPer100m, 2)}</td>
              <td>
                {formatPercent(p.residual)} {p.doubtful && '⚠ outlier'}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}
