import { otherLens } from '../editor/useChainAddress.ts'
import { Term } from '../shell/Term.tsx'
import type { StageDocument } from '@saltline/contract'
import {
  decimals,
  formatDb,
  formatLength,
  formatPower,
  formatVolt,
  lineRanges,
} from '@saltline/core'
import { Copy, EyeOff, MoveLeft, MoveRight, Trash2 } from 'lucide-react'
import { memo, useMemo } from 'react'
import { Link } from 'react-router'
import { useUnits } from '../platform/preferences.ts'
import { FigureList } from '../ui/FigureList.tsx'
import { TextField } from '../ui/TextField.tsx'
import { operatingPoint } from '../model/answers.ts'
import { rangeText, wattsText } from '../model/wattsText.ts'
import type { PanelProps } from './panelProps.ts'
import { useThingLine } from './useThingLine.tsx'
import { OwnLimits } from './stage/OwnLimits.tsx'
import { stageFields } from './stage/index.ts'

/** Fields and figures of one stage. */
export function StagePanel({ id, ...props }: PanelProps & { id: string }) {
  const { document, actions } = props
  const index = document.stages.findIndex((stage) => stage.id === id)
  const stage = document.stages[index]
  const thingLine = useThingLine({ station: props.station, document, actions, stage })
  if (!stage) return <p className="text-muted">This stage is no longer in the chain.</p>
  const change = (part: Partial<StageDocument>) =>
    actions.changeStage(id, (s) => ({ ...s, ...part }) as StageDocument)
  const hz = props.channel.frequencyHz
  const Fields = stageFields[stage.kind]
  return (
    <div className="space-y-3">
      <TextField label="Name" value={stage.name} onChange={(name) => change({ name })} />
      {thingLine}
      <Fields key={id} {...props} stage={stage} index={index} change={change} hz={hz} />
      {stage.kind !== 'amplifier' && (
        <OwnLimits key={`limits-${id}`} stage={stage} change={change} />
      )}
      <Figures {...props} index={index} />
      <CompareLink kind={stage.kind} id={id} channelId={props.channel.id} />
      <StageButtons
        id={id}
        first={index === 0}
        last={index === document.stages.length - 1}
        bypassed={Boolean(stage.bypassed)}
        actions={actions}
      />
    </div>
  )
}

/** What is done to the stage as a whole. */
const StageButtons = memo(function StageButtons({
  id,
  first,
  last,
  bypassed,
  actions,
}: {
  id: string
  first: boolean
  last: boolean
  bypassed: boolean
  actions: PanelProps['actions']
}) {
  return (
    <div className="flex flex-wrap gap-1.5 border-t border-rule pt-3">
      <button
        type="button"
        className="button"
        disabled={first}
        onClick={() => actions.move(id, -1)}
        aria-label="Move toward the transmitter"
      >
        <MoveLeft size={15} aria-hidden />
      </button>
      <button
        type="button"
        className="button"
        disabled={last}
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
        aria-pressed={bypassed}
        onClick={() => actions.toggleBypass(id)}
      >
        <EyeOff size={14} aria-hidden /> {bypassed ? 'Put back in' : 'Bypass'}
      </button>
      <button type="button" className="button" onClick={() => actions.remove(id)}>
        <Trash2 size={14} aria-hidden /> Remove
      </button>
    </div>
  )
})

/** What else could stand here is one click away. */
const CompareLink = memo(function CompareLink({
  kind,
  id,
  channelId,
}: {
  kind: StageDocument['kind']
  id: string
  channelId: string
}) {
  const asks = { line: 'cable', tuner: 'tuner' } as const
  const ask = kind === 'line' || kind === 'tuner' ? asks[kind] : null
  if (!ask) return null
  return (
    <Link
      className="link inline-block min-h-6 text-sm"
      relative="path"
      to={otherLens('compare', { channel: channelId, ask, section: id })}
    >
      {ask === 'cable' ? 'other cables for this section' : 'the tuner in another place'}
    </Link>
  )
})

/** Made once: they never change. */
const matchedTerm = <Term of="matched-loss">matched-line loss</Term>
const additionalTerm = <Term>additional loss due to SWR</Term>

/** What the stage takes on this channel, and what it has to stand. */
function Figures({
  answer,
  index,
  chain,
  document: { transmitter },
  channel,
}: PanelProps & { index: number }) {
  const { length } = useUnits()
  const bears = useMemo(
    () =>
      chain && answer?.ok && answer.spread?.phaseUnknown
        ? lineRanges(chain, operatingPoint(transmitter, channel), index)
        : null,
    [chain, answer, transmitter, channel, index],
  )
  if (!answer?.ok) return null
  const state = answer.solution.stages[index]!
  const spread = answer.spread?.stages[index]
  const rows: [React.ReactNode, string][] = [
    ['Lost in it', wattsText(state.lossW, 'W', spread?.lossW)],
    ['Loss', rangeText(state.lossDb, spread?.lossDb, formatDb)],
  ]
  if (state.line) {
    const { matchedLossDb, maxVoltageRms, maxCurrentRms, maxHeatWPerM } = state.line
    const more = spread && {
      low: spread.lossDb.low - matchedLossDb,
      high: spread.lossDb.high - matchedLossDb,
    }
    rows.push(
      [matchedTerm, formatDb(matchedLossDb)],
      [additionalTerm, rangeText(state.lossDb - matchedLossDb, more, formatDb)],
      ['Highest voltage, RMS', rangeText(maxVoltageRms.value, bears?.maxVoltageRms, formatVolt)],
      // Where it is goes round with the phase.
      ...(bears
        ? []
        : [
            ['where, from its antenna end', formatLength(maxVoltageRms.fromLoadM, length)] as [
              string,
              string,
            ],
          ]),
      [
        'Highest current, RMS',
        rangeText(maxCurrentRms.value, bears?.maxCurrentRms, (a) => `${decimals(a, 2)}\u00a0A`),
      ],
      [
        'Highest heating per metre',
        rangeText(maxHeatWPerM.value, bears?.maxHeatWPerM, (w) => `${formatPower(w)}/m`),
      ],
    )
  }
  return <FigureList rows={rows} />
}
