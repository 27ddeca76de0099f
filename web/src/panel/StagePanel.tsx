import type { CableDocument, StageDocument } from '@saltline/contract'
import { type OwnCable, ownCables } from '../chain/ownCables.ts'
import { copyOfClass } from '../chain/edits.ts'
import { CableField } from '../parts/CableField.tsx'
import {
  cableClasses,
  decimals,
  formatDb,
  formatFrequency,
  formatLength,
  formatPower,
  formatVolt,
  padLossDb,
} from '@saltline/core'
import { Copy, EyeOff, MoveLeft, MoveRight, Trash2 } from 'lucide-react'
import { useUnits } from '../app/preferences.ts'
import { ChoiceField } from '../parts/ChoiceField.tsx'
import { FigureList } from '../parts/FigureList.tsx'
import {
  DecibelField,
  FrequencyField,
  LengthField,
  OhmField,
  PlainField,
} from '../parts/quantities.tsx'
import { TextField } from '../parts/TextField.tsx'
import { wattsText } from '../parts/wattsText.ts'
import type { PanelProps } from './SidePanel.tsx'

type Change<S> = (change: Partial<S>) => void
type Of<K extends StageDocument['kind']> = Extract<StageDocument, { kind: K }>

/** Fields and figures of one stage. */
export function StagePanel({ id, ...props }: PanelProps & { id: string }) {
  const { document, actions } = props
  const index = document.stages.findIndex((stage) => stage.id === id)
  const stage = document.stages[index]
  if (!stage) return <p className="text-muted">This stage is no longer in the chain.</p>
  const change = (part: Partial<StageDocument>) =>
    actions.changeStage(id, (s) => ({ ...s, ...part }) as StageDocument)
  const hz = props.channel.frequencyHz
  return (
    <div className="space-y-3">
      <TextField label="Name" value={stage.name} onChange={(name) => change({ name })} />
      {stage.kind === 'line' && (
        <LineFields key={id} stage={stage} change={change} hz={hz} own={ownCables(props.station)} />
      )}
      {stage.kind === 'pad' && <PadFields key={id} stage={stage} change={change} hz={hz} />}
      {(stage.kind === 'series' || stage.kind === 'shunt') && (
        <ImpedanceFields key={id} stage={stage} change={change} hz={hz} />
      )}
      <Figures {...props} index={index} />
      <div className="flex flex-wrap gap-1.5 border-t border-rule pt-3">
        <button
          type="button"
          className="button"
          disabled={index === 0}
          onClick={() => actions.move(id, -1)}
          aria-label="Move toward the transmitter"
        >
          <MoveLeft size={15} aria-hidden />
        </button>
        <button
          type="button"
          className="button"
          disabled={index === document.stages.length - 1}
          onClick={() => actions.move(id, 1)}
          aria-label="Move toward the antenna"
        >
          <MoveRight size={15} aria-hidden />
        </button>
        <button type="button" className="button" onClick={() => actions.duplicate(id)}>
          <Copy size={14} aria-hidden /> Duplicate
        </button>
        <button
          type="button"
          className="button"
          aria-pressed={Boolean(stage.bypassed)}
          onClick={() => actions.toggleBypass(id)}
        >
          <EyeOff size={14} aria-hidden /> {stage.bypassed ? 'Put back in' : 'Bypass'}
        </button>
        <button type="button" className="button" onClick={() => actions.remove(id)}>
          <Trash2 size={14} aria-hidden /> Remove
        </button>
      </div>
    </div>
  )
}

function LineFields({
  stage,
  change,
  hz,
  own,
}: {
  stage: Of<'line'>
  change: Change<Of<'line'>>
  hz: number
  own: OwnCable[]
}) {
  const { cable } = stage
  const setCable = (part: Partial<CableDocument>) => change({ cable: { ...cable, ...part } })
  return (
    <>
      <LengthField
        label="Length"
        value={stage.lengthM}
        onChange={(lengthM) => change({ lengthM })}
        autoFocus
      />
      <CableField
        value={cable.gearId ?? ''}
        own={own}
        fallback={cable}
        frequencyHz={hz}
        onChange={(id) => {
          const found = cableClasses.find((entry) => entry.id === id)
          const mine = own.find((entry) => entry.id === id)
          if (found) change({ cable: copyOfClass(found) })
          else if (mine) change({ cable: { ...mine.document, gearId: id } })
        }}
      />
      <AgeingFields stage={stage} change={change} />
      <details className="rounded border border-rule px-3 py-2">
        <summary className="cursor-pointer text-sm text-muted">Cable figures</summary>
        <div className="mt-2 grid grid-cols-2 gap-2">
          <OhmField
            label="Impedance"
            value={cable.z0Ohm}
            onChange={(z0Ohm) => setCable({ z0Ohm })}
          />
          <PlainField
            label="Velocity factor"
            value={cable.velocityFactor}
            onChange={(velocityFactor) => setCable({ velocityFactor })}
            step={0.01}
            min={0.3}
            max={1}
          />
          <PlainField
            label="k₁, conductor"
            unit="dB"
            value={cable.k1DbPer100m}
            onChange={(k1DbPer100m) => setCable({ k1DbPer100m })}
            step={0.01}
            min={0}
            max={200}
          />
          <PlainField
            label="k₂, dielectric"
            unit="dB"
            value={cable.k2DbPer100m}
            onChange={(k2DbPer100m) => setCable({ k2DbPer100m })}
            step={0.0005}
            min={0}
            max={5}
          />
        </div>
        <p className="mt-2 text-xs text-muted">
          Loss per 100 m is k₁·√f + k₂·f with f in MHz: both are dB per 100 m at 1 MHz.
        </p>
      </details>
    </>
  )
}

/** What time and weather have done to the section. */
function AgeingFields({ stage, change }: { stage: Of<'line'>; change: Change<Of<'line'>> }) {
  const { ageing, temperatureC } = stage
  const set = (part: Partial<NonNullable<typeof ageing>>) => {
    const next = { factor: 1, reason: '', ...ageing, ...part }
    change({ ageing: next.factor === 1 && !next.reason ? undefined : next })
  }
  return (
    <details className="rounded border border-rule px-3 py-2" open={ageing !== undefined}>
      <summary className="cursor-pointer text-sm text-muted">
        Age and temperature{ageing && `: ${decimals((ageing.factor - 1) * 100, 0)} % more loss`}
      </summary>
      <div className="mt-2 grid grid-cols-2 gap-2">
        <PlainField
          label="Loss above new"
          unit="%"
          value={((ageing?.factor ?? 1) - 1) * 100}
          step={1}
          min={0}
          max={1900}
          onChange={(percent) => set({ factor: 1 + percent / 100 })}
        />
        <PlainField
          label="Temperature"
          unit="°C"
          value={temperatureC ?? 20}
          step={1}
          min={-60}
          max={120}
          onChange={(celsius) => change({ temperatureC: celsius === 20 ? undefined : celsius })}
        />
        <TextField
          label="Why"
          value={ageing?.reason ?? ''}
          optional
          onChange={(reason) => set({ reason })}
        />
        <div>
          <label htmlFor="ageing-date" className="mb-0.5 block text-xs text-muted">
            Known since
          </label>
          <input
            id="ageing-date"
            type="date"
            className="field"
            value={ageing?.date ?? ''}
            onChange={(event) => set({ date: event.target.value || undefined })}
          />
        </div>
      </div>
    </details>
  )
}

function PadFields({
  stage,
  change,
  hz,
}: {
  stage: Of<'pad'>
  change: Change<Of<'pad'>>
  hz: number
}) {
  const grows = stage.atHz !== undefined
  return (
    <>
      <DecibelField
        label="Insertion loss"
        value={stage.lossDb}
        onChange={(lossDb) => change({ lossDb })}
        autoFocus
      />
      <ChoiceField
        label="Over frequency"
        value={grows ? 'grows' : 'flat'}
        options={[
          { value: 'flat', label: 'the same everywhere' },
          { value: 'grows', label: 'grows as √f' },
        ]}
        onChange={(law) => change({ atHz: law === 'grows' ? hz : undefined })}
        hint={
          grows
            ? `${formatDb(padLossDb(stage, hz))} at ${formatFrequency(hz)}`
            : 'A matched part on 50 Ω.'
        }
      />
      {grows && (
        <FrequencyField
          label="Loss stated at"
          value={stage.atHz!}
          onChange={(atHz) => change({ atHz })}
        />
      )}
    </>
  )
}

function ImpedanceFields({
  stage,
  change,
  hz,
}: {
  stage: Of<'series'> | Of<'shunt'>
  change: (part: Partial<StageDocument>) => void
  hz: number
}) {
  const part = stage.xOhm >= 0 ? 'coil' : 'capacitor'
  // A shunt of 0 + j0 Ω is a short circuit, so the last bit of it stays.
  const keep = (ohm: number, other: number) =>
    stage.kind === 'shunt' && ohm === 0 && other === 0 ? 0.001 : ohm
  return (
    <>
      <div className="grid grid-cols-2 gap-2">
        <OhmField
          label="Resistance"
          value={stage.rOhm}
          onChange={(r) => change({ rOhm: keep(r, stage.xOhm) })}
          autoFocus
        />
        <OhmField
          label="Reactance"
          signed
          value={stage.xOhm}
          onChange={(x) => change({ xOhm: keep(x, stage.rOhm) })}
        />
      </div>
      <ChoiceField
        label="Over frequency"
        value={stage.atHz === undefined ? 'fixed' : 'part'}
        options={[
          { value: 'fixed', label: 'X is the same everywhere' },
          { value: 'part', label: `behaves as a ${part}` },
        ]}
        onChange={(law) => change({ atHz: law === 'part' ? hz : undefined })}
      />
      {stage.atHz !== undefined && (
        <FrequencyField
          label="Reactance stated at"
          value={stage.atHz}
          onChange={(atHz) => change({ atHz })}
        />
      )}
    </>
  )
}

/** What the stage takes on this channel, and what it has to stand. */
function Figures({ answer, index }: PanelProps & { index: number }) {
  const { power, length } = useUnits()
  if (!answer?.ok) return null
  const state = answer.solution.stages[index]!
  const spread = answer.spread?.stages[index]
  const rows: [string, string][] = [
    ['Takes', wattsText(state.lossW, power, spread?.lossW)],
    ['Loss', formatDb(state.lossDb)],
  ]
  if (state.line) {
    const { matchedLossDb, maxVoltageRms, maxCurrentRms, maxHeatWPerM } = state.line
    rows.push(
      ['of it, matched', formatDb(matchedLossDb)],
      ['of it, standing wave', formatDb(state.lossDb - matchedLossDb)],
      ['Highest voltage, RMS', formatVolt(maxVoltageRms.value)],
      ['where, from its antenna end', formatLength(maxVoltageRms.fromLoadM, length)],
      ['Highest current, RMS', `${decimals(maxCurrentRms.value, 2)} A`],
      ['Most heat per metre', `${formatPower(maxHeatWPerM.value)}/m`],
    )
  }
  return <FigureList rows={rows} />
}
