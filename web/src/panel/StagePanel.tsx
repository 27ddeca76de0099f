import type { StageDocument } from '@saltline/contract'
import { decimals, formatDb, formatLength, formatPower, formatVolt } from '@saltline/core'
import { Copy, EyeOff, MoveLeft, MoveRight, Trash2 } from 'lucide-react'
import { useUnits } from '../app/preferences.ts'
import { ownCables } from '../chain/ownCables.ts'
import { FigureList } from '../parts/FigureList.tsx'
import { TextField } from '../parts/TextField.tsx'
import { wattsText } from '../parts/wattsText.ts'
import type { PanelProps } from './SidePanel.tsx'
import { Amplifier, MeterReading, Tuner } from './activeStages.tsx'
import { ImpedanceFields } from './stage/ImpedanceFields.tsx'
import { LineFields } from './stage/LineFields.tsx'
import { OwnLimits } from './stage/OwnLimits.tsx'
import { MeasuredFields } from './stage/MeasuredFields.tsx'
import { PadFields } from './stage/PadFields.tsx'

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
      {stage.kind === 'pad' && stage.part === 'meter' && <MeterReading {...props} index={index} />}
      {stage.kind === 'tuner' && <Tuner {...props} index={index} stage={stage} />}
      {stage.kind === 'amplifier' && <Amplifier {...props} index={index} stage={stage} />}
      {stage.kind === 'measured' && <MeasuredFields key={id} stage={stage} change={change} />}
      {stage.kind !== 'amplifier' && (
        <OwnLimits key={`limits-${id}`} stage={stage} change={change} />
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
