import type {
  ChainDocument,
  ChannelDocument,
  StageDocument,
  TransmitterDocument,
} from '@saltline/contract'
import {
  decimals,
  formatDb,
  formatImpedance,
  formatLength,
  formatPower,
  type LengthUnit,
  padLossDb,
  type PowerUnit,
  type StageState,
} from '@saltline/core'
import { settingOf } from '../chain/answers.ts'
import type { Leg } from './geometry.ts'
import type { IconKind } from './StageIcon.tsx'

export const iconOf = (stage: StageDocument): IconKind =>
  stage.bypassed ? 'bypassed' : stage.kind === 'pad' ? stage.part : stage.kind

/** The figure under a stage's name. */
export function stageFigure(
  stage: StageDocument,
  hz: number,
  unit: LengthUnit,
  state: StageState | undefined,
): string {
  if (stage.bypassed) return 'bypassed'
  switch (stage.kind) {
    case 'line':
      return formatLength(stage.lengthM, unit)
    case 'pad':
      return formatDb(padLossDb(stage, hz))
    case 'measured':
      return 'measured'
    case 'tuner':
      if (state?.tuner?.matched === false) return '✕ no match'
      return state ? formatDb(state.lossDb) : 'tuner'
    case 'amplifier':
      if (state?.amplifier?.trips) return '✕ trips'
      if (state?.amplifier?.overdriven) return '▲ overdriven'
      return state ? `+ ${decimals(-state.lossDb, 1)}\u00a0dB` : formatDb(stage.gainDb)
    case 'series':
    case 'shunt':
      return formatImpedance({ re: stage.rOhm, im: stage.xOhm })
  }
}

/** The tone of a figure: a fact that cannot stay, something near its limit, or neither. */
export const toneOf = (figure: string): string =>
  /^[✕▲]/.test(figure) ? 'text-danger' : figure.startsWith('◐') ? 'text-caution' : 'text-muted'

/** What the dashed line stands for. */
export const saltText = (leg: Leg, { stages }: ChainDocument, unit: PowerUnit): string =>
  leg.stage < 0
    ? `salt line, ${formatPower(leg.settingW, unit)} set`
    : `salt line, ${formatPower(leg.settingW, unit)} from ${stages[leg.stage]!.name}`

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
