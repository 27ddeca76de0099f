import type { OperatingPoint } from '../chain/chain.ts'
import type { RatedChain } from '../limits/mostPower.ts'
import type { RatedStage } from '../limits/ratings.ts'
import type { RunPlace, RunState, RunStep } from './sheet.ts'
import type { RunChannel } from './expand.ts'

/** The chain as it stands during a step, how it is run, and the plane that is read at. */
export interface SteppedChain {
  chain: RatedChain
  at: OperatingPoint
  plane: number
}

/** A power without decimals that no dial has; never more than what was asked for. */
export const settable = (watts: number): number => {
  const step = 10 ** (Math.floor(Math.log10(Math.max(watts, 1e-6))) - 2)
  return Number((Math.floor(watts / step + 1e-9) * step).toPrecision(3))
}

/** What is set on the transmitter during a step, W PEP. */
export const setPowerOf = (
  { watts, share }: RunState,
  { powerW }: Pick<RunChannel, 'powerW'>,
): number => settable(Math.min(powerW, watts ?? powerW * (share ?? 1)))

/**
 * The chain in the state of a step: tuner and amplifier switched through or in circuit, a dummy load in the place of what
 * lies behind the output or behind the cable under test, the power of the step. Stages and planes keep their numbers.
 */
export function chainOfStep(
  chain: RatedChain,
  { state = {}, place }: Pick<RunStep, 'state' | 'place'>,
  channel: Pick<RunChannel, 'frequencyHz' | 'mode' | 'powerW'>,
): SteppedChain {
  const stages = chain.stages.map((stage) => switched(stage, state))
  const cut = { ...chain, ...loaded(chain, stages, state) }
  return {
    chain: cut,
    at: {
      frequencyHz: channel.frequencyHz,
      powerW: setPowerOf(state, channel),
      mode: state.carrier ? 'key-down' : channel.mode,
    },
    plane: Math.min(planeOf(stages, place ?? 'meter'), cut.stages.length),
  }
}

function switched(stage: RatedStage, { tuner, amplifier }: RunState): RatedStage {
  const bypass =
    (stage.kind === 'tuner' && tuner) || (stage.kind === 'amplifier' && amplifier) || null
  if (bypass === null) return stage
  return { ...stage, bypassed: bypass === 'bypass' }
}

const DUMMY = { kind: 'fixed' as const, rOhm: 50, xOhm: 0 }

function loaded(
  chain: RatedChain,
  stages: readonly RatedStage[],
  { load = 'antenna' }: RunState,
): Pick<RatedChain, 'stages' | 'load'> {
  if (load === 'antenna') return { stages, load: chain.load }
  const output = outputPlane(stages)
  const cable = load === 'cable' ? cableUnderTest(stages) : -1
  return {
    // Between the output and the cable under test there is nothing else.
    stages: stages
      .slice(0, Math.max(output, cable + 1))
      .map((stage, k) => (k >= output && k !== cable ? { ...stage, bypassed: true } : stage)),
    load: DUMMY,
  }
}

/** The longest section of line behind the output; −1 where there is none. */
function cableUnderTest(stages: readonly RatedStage[]): number {
  const output = outputPlane(stages)
  return stages.reduce((best, stage, k) => {
    if (stage.kind !== 'line' || k < output) return best
    const longest = best < 0 ? undefined : stages[best]
    return longest?.kind === 'line' && longest.lengthM >= stage.lengthM ? best : k
  }, -1)
}

/** Behind the last amplifier in circuit; at the radio without one. */
const outputPlane = (stages: readonly RatedStage[]): number =>
  stages.findLastIndex(({ kind, bypassed }) => kind === 'amplifier' && !bypassed) + 1

function planeOf(stages: readonly RatedStage[], place: RunPlace): number {
  const output = outputPlane(stages)
  switch (place) {
    case 'radio':
      return 0
    case 'output':
      return output
    case 'antenna':
      return stages.length
    case 'tuner': {
      const tuner = stages.findIndex(({ kind }) => kind === 'tuner')
      return tuner < 0 ? output : tuner
    }
    case 'meter': {
      const meter = stages.findIndex(
        (stage, k) =>
          k >= output && stage.kind === 'pad' && (stage as { part?: string }).part === 'meter',
      )
      return meter < 0 ? output : meter
    }
  }
}
