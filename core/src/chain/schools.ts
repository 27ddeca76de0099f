import type { Chain, OperatingPoint } from './chain.ts'
import { type Answer, answerChain } from './phaseRange.ts'

/**
 * Is reflected power lost? Both answers for one chain, with foldback left out so that only the
 * question itself differs.
 */
export interface BothSchools {
  /** A source on a fixed reference: net = forward − reflected, mismatch loss is real. */
  lost: Answer
  /** A retuned output or a tuner: all of the setting goes in, only extra line loss counts. */
  resent: Answer
  /** The chain as it stands, with its own behaviour and foldback. */
  asItStands: Answer
}

/**
 * What reaches the antenna when the source is taken as levelled, as peaked, and as the chain states it (W).
 *
 * @throws InputError as `solve`
 * @example bothSchools(chain, at).lost.solution.antennaW // 57.53
 */
export function bothSchools(chain: Chain, at: OperatingPoint): BothSchools {
  const as = (behaviour: 'levelled' | 'peaked') =>
    answerChain({ ...chain, transmitter: { behaviour, foldback: [] } }, at)
  return {
    lost: as('levelled'),
    resent: as('peaked'),
    asItStands: answerChain(chain, at),
  }
}

/**
 * The textbook total loss of a line, dB: matched loss A (as a ratio a = 10^(A/10)) and |ρ| at its
 * load. It takes Z₀ as real; Salt Line shows it beside the exact figure as the approximation it is.
 * Source: the usual derivation from a flat line, e.g. Chipman, Transmission Lines, ch. 7.
 *
 * @example textbookLineLossDb(1.96, 1 / 3) // 2.271
 */
export function textbookLineLossDb(matchedLossDb: number, rhoAtLoad: number): number {
  const a = 10 ** (matchedLossDb / 10)
  const rho2 = rhoAtLoad * rhoAtLoad
  return 10 * Math.log10((a * a - rho2) / (a * (1 - rho2)))
}
