import type {
  ChainDocument,
  ChannelDocument,
  StageDocument,
  TransmitterDocument,
} from '@saltline/contract'
import { formatPower, type LengthUnit, type PowerUnit, type StageState } from '@saltline/core'
import { settingOf } from '../model/answers.ts'
import type { Leg } from './geometry.ts'
import { kindOf } from '../model/stages/index.ts'
import type { StageRanges } from '../model/stages/stageKind.ts'

const BYPASSED = 'M3 12c0-9 18-9 18 0'

/** Strokes of a stage's icon; null for a cable, which is drawn. */
export const iconOf = (stage: StageDocument): string | null =>
  stage.bypassed ? BYPASSED : kindOf(stage).icon(stage)

/** The figure under a stage's name. */
export const stageFigure = (
  stage: StageDocument,
  hz: number,
  unit: LengthUnit,
  state: StageState | undefined,
  range?: StageRanges,
): string => (stage.bypassed ? 'bypassed' : kindOf(stage).figure(stage, hz, unit, state, range))

/** The tone of a figure: a fact that cannot stay, something near its limit, or neither. */
export const toneOf = (figure: string): string =>
  /^[✕▲]/.test(figure) ? 'text-danger' : figure.startsWith('◐') ? 'text-caution' : 'text-muted'

/** What the dashed line stands for. */
export const saltText = (leg: Leg, { stages }: ChainDocument, unit: PowerUnit): string =>
  leg.stage < 0
    ? `set power ${formatPower(leg.settingW, unit)}`
    : `${stages[leg.stage]!.name}: ${formatPower(leg.settingW, unit)} into a match`

/** What the transmitter is set to; said where a power-saving setting takes some of it. */
export function settingText(
  transmitter: TransmitterDocument,
  channel: ChannelDocument,
  unit: PowerUnit,
): string {
  const watts = settingOf(transmitter, channel)
  return watts < channel.powerW
    ? `▲ reduced to ${formatPower(watts, unit)}`
    : formatPower(watts, unit)
}
