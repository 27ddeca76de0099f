import { InputError } from '../errors.ts'
import { half } from '../statistics/random.ts'
import { formatFrequency } from '../units/format.ts'
import type { StageModel } from './model.ts'
import { writePad } from './pad.ts'
import { throughStresses } from './stress.ts'
import type { Abcd } from './twoPort.ts'

/** One antenna for a transmitter and a receiver at once: each has a branch that passes its own band. */
export interface DuplexerStage {
  kind: 'duplexer'
  /** What the transmitter’s branch passes, Hz, and its loss, dB. */
  transmitLowHz: number
  transmitHighHz: number
  lossDb: number
  /** The same of the receiver’s branch. */
  receiveLowHz: number
  receiveHighHz: number
  receiveLossDb: number
  /** How far the transmitter is kept out of the receiver, dB. */
  isolationDb: number
}

type Branch = 'transmit' | 'receive'

/**
 * The branch that passes a frequency; null where neither does.
 *
 * @example duplexerBranch({ transmitLowHz: 160e6, transmitHighHz: 161e6, receiveLowHz: 155e6, receiveHighHz: 156e6 }, 160.6e6)
 *   // 'transmit'
 */
export function duplexerBranch(stage: DuplexerStage, hz: number): Branch | null {
  if (hz >= stage.transmitLowHz && hz <= stage.transmitHighHz) return 'transmit'
  if (hz >= stage.receiveLowHz && hz <= stage.receiveHighHz) return 'receive'
  return null
}

/** A branch is a matched loss; between the branches there is no figure, and a curve has a gap. */
function writeDuplexer(stage: DuplexerStage, hz: number, referenceOhm: number, out: Abcd): void {
  const branch = duplexerBranch(stage, hz)
  if (branch === null) return void out.fill(NaN)
  const lossDb = branch === 'transmit' ? stage.lossDb : stage.receiveLossDb
  writePad({ kind: 'pad', lossDb }, hz, referenceOhm, out)
}

const band = (low: number, high: number): string =>
  `${formatFrequency(low)} to ${formatFrequency(high)}`

/**
 * Checks, matrix, stresses and tolerances of a duplexer.
 *
 * @internal
 */
export const duplexerModel: StageModel<DuplexerStage> = {
  check: (stage, { notNegative, positive, refuse }) => {
    notNegative(stage.lossDb, 'Loss', 'lossDb')
    notNegative(stage.receiveLossDb, 'Loss of the receiver’s branch', 'receiveLossDb')
    positive(stage.transmitLowHz, 'Frequency', 'transmitLowHz')
    positive(stage.receiveLowHz, 'Frequency', 'receiveLowHz')
    if (!(stage.transmitHighHz >= stage.transmitLowHz))
      refuse('The transmitter’s branch ends before it begins.', 'transmitHighHz')
    if (!(stage.receiveHighHz >= stage.receiveLowHz))
      refuse('The receiver’s branch ends before it begins.', 'receiveHighHz')
    if (stage.transmitLowHz <= stage.receiveHighHz && stage.receiveLowHz <= stage.transmitHighHz)
      refuse('The two branches overlap: a duplexer keeps them apart.', 'receiveLowHz')
  },
  write: writeDuplexer,
  covers: (stage, hz) => {
    if (duplexerBranch(stage, hz) !== null) return
    throw new InputError(
      `This duplexer does not pass ${formatFrequency(hz)}: its branches are ${band(stage.transmitLowHz, stage.transmitHighHz)} and ${band(stage.receiveLowHz, stage.receiveHighHz)}. Choose a channel inside one, give it its bands, or bypass it.`,
      ['transmitLowHz'],
    )
  },
  varied: {
    copy: (stage) => ({ ...stage }),
    draw: (from, to, tolerances, random) => {
      const loss = Math.max(0, 1 + half(random) * tolerances.parts)
      to.lossDb = from.lossDb * loss
      to.receiveLossDb = from.receiveLossDb * loss
    },
  },
  stresses: (_stage, at) => throughStresses(at),
  lossless: (stage) => ({ ...stage, lossDb: 0, receiveLossDb: 0 }),
}
