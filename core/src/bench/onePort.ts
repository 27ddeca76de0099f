import { InputError } from '../errors.ts'
import { type MeasuredLoss, measuredLoss } from './substitution.ts'
import { propagate, type Uncertain } from '../statistics/propagate.ts'

/** Return loss looking into a cable whose far end is open, shorted, or one after the other. */
export interface OnePortPoint {
  frequencyHz: number
  openDb?: number | undefined
  shortDb?: number | undefined
}

export interface OnePort {
  points: readonly OnePortPoint[]
  lengthM?: number | undefined
  /** Largest error of a return loss, dB. */
  accuracyDb: number
  /** Of the analyser's bridge, dB; what leaks through adds to what comes back. */
  directivityDb: number
}

/**
 * Loss from one end: the wave pays on the way out and on the way back, so the loss is half of the return
 * loss. Open and short together cancel most of what the connector and a line not quite on 50 Ω do.
 *
 * @throws InputError with the path of a reading that cannot be
 * @example onePort({ points: [{ frequencyHz: 10e6, openDb: 4 }], accuracyDb: 0.5, directivityDb: 40 })[0].lossDb.value
 *   // 2
 */
export function onePort(sheet: OnePort): MeasuredLoss[] {
  return sheet.points.map((point, i) => {
    const known = (['openDb', 'shortDb'] as const).filter((end) => point[end] !== undefined)
    if (known.length === 0)
      throw new InputError('Give the return loss with the far end open, shorted, or both.', [
        'points',
        i,
        'openDb',
      ])
    for (const end of known)
      if (!(point[end]! >= 0))
        throw new InputError(
          'A return loss is 0 dB or more: nothing passive sends back more than it gets.',
          ['points', i, end],
        )
    const leak = 10 ** (-sheet.directivityDb / 20)
    const inputs: Record<string, Uncertain> = {}
    for (const end of known) {
      inputs[nameOf[end]] = { value: point[end]!, doubt: sheet.accuracyDb }
    }
    // The same leak meets both ends, and their reflections are opposite: what it adds to one it takes from the other.
    inputs['directivity'] = { value: 0, doubt: leak, shape: 'phase' }
    const half = (v: Record<string, number>, end: 'openDb' | 'shortDb') => {
      const along = end === 'openDb' ? v['directivity']! : -v['directivity']!
      const rho = 10 ** (-v[nameOf[end]]! / 20) - along
      return rho > 0 ? -10 * Math.log10(rho) : NaN
    }
    const lossDb = propagate(
      inputs,
      (v) => known.reduce((sum, end) => sum + half(v, end), 0) / known.length,
    )
    return measuredLoss(point.frequencyHz, lossDb, sheet.lengthM)
  })
}

const nameOf = { openDb: 'far end open', shortDb: 'far end shorted' } as const
