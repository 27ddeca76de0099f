import { InputError } from '../errors.ts'
import type { Checks } from '../stages/model.ts'
import { modelOf } from '../stages/stage.ts'
import type { Chain, OperatingPoint } from './chain.ts'

type Path = readonly (string | number)[]

const checksAt = (at: Path): Checks => ({
  positive: (value, what, ...path) => {
    if (!(value > 0 && Number.isFinite(value)))
      throw new InputError(`${what} must be more than 0, not ${value}.`, [...at, ...path])
  },
  notNegative: (value, what, ...path) => {
    if (!(value >= 0 && Number.isFinite(value)))
      throw new InputError(`${what} must be 0 or more, not ${value}.`, [...at, ...path])
  },
  refuse: (message, ...path) => {
    throw new InputError(message, [...at, ...path])
  },
})

const own = checksAt([])
/** Made once for every place in a chain: it is solved thousands of times. */
const ofStage: Checks[] = []

/** @throws InputError for what no circuit can be: the path names the field */
export function checkChain({ stages, load }: Chain, at: OperatingPoint): void {
  const { positive, notNegative } = own
  positive(at.frequencyHz, 'Frequency', 'frequencyHz')
  notNegative(at.powerW, 'Power', 'powerW')
  for (let k = 0; k < stages.length; k++)
    modelOf(stages[k]!).check(stages[k]!, (ofStage[k] ??= checksAt(['stages', k])))
  if (load.kind === 'fixed') notNegative(load.rOhm, 'Resistance', 'load', 'rOhm')
  if (load.kind === 'swr' && !(load.swr >= 1))
    throw new InputError(`SWR must be 1 or more, not ${load.swr}.`, ['load', 'swr'])
}

/**
 * Checks that every part of a chain has a figure for a frequency.
 *
 * @throws InputError with a path
 */
export function checkCovered({ stages }: Pick<Chain, 'stages'>, frequencyHz: number): void {
  stages.forEach((stage, k) => {
    if (stage.bypassed) return
    try {
      modelOf(stage).covers?.(stage, frequencyHz)
    } catch (error) {
      throw error instanceof InputError ? error.within('stages', k) : error
    }
  })
}
