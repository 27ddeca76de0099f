import { phaseUnknown } from '../load/load.ts'
import { lossDb } from '../units/decibel.ts'
import { extremesOf } from './allRound.ts'
import type { Chain, OperatingPoint, TunerSettings } from './chain.ts'
import { chainFigures, ofPlane } from './chainFigures.ts'
import { checkChain, checkCovered } from './checkChain.ts'
import { middlePhase } from './phaseRange.ts'
import { solveChain } from './solve.ts'
import { roundOf, turnChain } from './turnChain.ts'
import type { Range } from '../statistics/quantile.ts'

/**
 * What lies between transmitter and antenna loses as heat, dB: net power in over net power out. Of an antenna of unknown phase
 * the least, the most, and that of the phase whose power at the antenna is the middle.
 *
 * @returns null where nothing arrives
 * @throws InputError as `solveChain`
 */
export function dissipatedDb(chain: Chain, at: OperatingPoint): (Range & { db: number }) | null {
  if (!phaseUnknown(chain.load, at.frequencyHz)) {
    const { transmitterNetW, antennaW } = solveChain(chain, at)
    if (!(antennaW > 0)) return null
    const db = lossDb(transmitterNetW, antennaW)
    return { db, low: db, high: db }
  }
  checkChain(chain, at)
  checkCovered(chain, at.frequencyHz)
  const figuresAt = chainFigures(chain, at)
  const round = roundOf(chain, at)
  const antenna = ofPlane(chain.stages.length)
  const solve = (phase: number, settings: TunerSettings) => {
    const figures = figuresAt(phase, settings)
    return { phase, watts: figures[antenna]!, db: lossDb(figures[ofPlane(0)]!, figures[antenna]!) }
  }
  const all = turnChain(round, { solve, figuresOf: ({ watts, db }) => [watts, db] })
  const watts = extremesOf(all, (solved) => solved.watts)
  if (!(watts.low > 0)) return null
  const phase = middlePhase(
    all,
    (watts.low + watts.high) / 2,
    (own) => solve(own, round.settingsAt(own)).watts,
  )
  return { db: solve(phase, round.settingsAt(phase)).db, ...extremesOf(all, ({ db }) => db) }
}
