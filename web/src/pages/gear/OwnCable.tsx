import { ChartView } from '../../ui/chart/ChartView.tsx'
import { lossChart } from './lossChart.ts'
import { errorText } from '../../platform/errorText.ts'
import {
  attenuationDbPer100m,
  type AttenuationFit,
  cableFromConstruction,
  type CableConstruction,
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
import { addGear } from '../../platform/api/queries.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { Dialog } from '../../ui/Dialog.tsx'
import { OhmField, PlainField } from '../../ui/quantities.tsx'
import { TextField } from '../../ui/TextField.tsx'
import { Problem } from '../../ui/Problem.tsx'

interface Law {
  k1DbPer100m: number
  k2DbPer100m: number
  z0Ohm: number
  velocityFactor: number
  maxHz?: number | undefined
}

/** A cable of one's own: from a pasted data sheet, or from what it is made of. */
export function OwnCable({
  stationId,
  onClose,
  onAdded,
}: {
  stationId: string
  onClose: () => void
  onAdded: (id: string) => void
}) {
  const [name, setName] = useState('My cable')
  const [way, setWay] = useState<'sheet' | 'construction'>('sheet')
  const [law, setLaw] = useState<Law | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const keep = async () => {
    if (!law) return
    try {
      onAdded((await addGear(stationId, { kind: 'cable', document: { name, ...law } })).id)
    } catch (error) {
      setProblem(errorText(error))
    }
  }
  return (
    <Dialog title="Custom cable" onClose={onClose}>
      <div className="mb-3 grid gap-3 sm:grid-cols-2">
        <TextField label="Name" value={name} onChange={setName} />
        <ChoiceField
          label="From"
          value={way}
          options={[
            { value: 'sheet', label: 'a data sheet’s table' },
            { value: 'construction', label: 'what it is made of' },
          ]}
          onChange={setWay}
        />
      </div>
      {way === 'sheet' ? <FromSheet onLaw={setLaw} /> : <FromConstruction onLaw={setLaw} />}
      <Problem text={problem} />
      <button
        type="button"
        className="button button-main mt-4"
        disabled={!law}
        onClick={() => void keep()}
      >
        Add to the station
      </button>
    </Dialog>
  )
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

function FromSheet({ onLaw }: { onLaw: (law: Law | null) => void }) {
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

const firstConstruction: CableConstruction = {
  innerMm: 0.9,
  dielectricMm: 2.95,
  epsilonR: 2.28,
  tanDelta: 3e-4,
  innerFactor: 1.2,
  outerFactor: 2,
}

function FromConstruction({ onLaw }: { onLaw: (law: Law | null) => void }) {
  const [made, setMade] = useState(firstConstruction)
  const result = useMemo(() => {
    try {
      return { ok: true as const, cable: cableFromConstruction(made) }
    } catch (error) {
      if (error instanceof InputError) return { ok: false as const, message: error.message }
      throw error
    }
  }, [made])
  const set = (change: Partial<CableConstruction>) => {
    const next = { ...made, ...change }
    setMade(next)
    try {
      onLaw(cableFromConstruction(next))
    } catch {
      onLaw(null)
    }
  }
  return (
    <div className="grid gap-4 sm:grid-cols-2">
      <div className="grid grid-cols-2 content-start gap-2">
        <PlainField
          label="Inner conductor"
          unit="mm"
          value={made.innerMm}
          step={0.05}
          min={0.05}
          max={30}
          onChange={(innerMm) => set({ innerMm })}
        />
        <PlainField
          label="Over the dielectric"
          unit="mm"
          value={made.dielectricMm}
          step={0.05}
          min={0.1}
          max={80}
          onChange={(dielectricMm) => set({ dielectricMm })}
        />
        <PlainField
          label="Permittivity εr"
          value={made.epsilonR}
          step={0.01}
          min={1}
          max={5}
          onChange={(epsilonR) => set({ epsilonR })}
        />
        <PlainField
          label="Loss angle tan δ, 10⁻⁴"
          value={made.tanDelta * 1e4}
          step={0.1}
          min={0}
          max={100}
          onChange={(v) => set({ tanDelta: v / 1e4 })}
        />
        <PlainField
          label="Inner, over solid copper"
          unit="×"
          value={made.innerFactor}
          step={0.05}
          min={0.9}
          max={5}
          onChange={(innerFactor) => set({ innerFactor })}
        />
        <PlainField
          label="Braid, over solid copper"
          unit="×"
          value={made.outerFactor}
          step={0.05}
          min={0.9}
          max={8}
          onChange={(outerFactor) => set({ outerFactor })}
        />
      </div>
      <div className="text-sm">
        {!result.ok && (
          <p role="alert" className="text-danger">
            ⚠ {result.message}
          </p>
        )}
        {result.ok && (
          <p>
            Z₀ {decimals(result.cable.z0Ohm, 1)} Ω, velocity factor{' '}
            {decimals(result.cable.velocityFactor, 3)},{' '}
            {decimals(attenuationDbPer100m(result.cable, 10e6), 2)} dB per 100 m at 10 MHz and{' '}
            {decimals(attenuationDbPer100m(result.cable, 145e6), 2)} dB at 145 MHz.
          </p>
        )}
        <p className="mt-2 text-muted">
          Computed from surface resistance and dielectric loss; a figure to start from, not a
          measurement.
        </p>
      </div>
    </div>
  )
}
