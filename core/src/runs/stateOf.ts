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

/** A power without decimals that no dial has. */
const settable = (watts: number): number => Number(watts.toPrecision(3))

/** What is set on the transmitter during a step, W PEP. */
export const setPowerOf = (
  { watts, share }: RunState,
  { powerW }: Pick<RunChannel, 'powerW'>,
): number => settable(Math.min(powerW, watts ?? powerW * (share ?? 1)))

/**
 * The chain in the state of a step: tuner and amplifier switched through or in circuit, a dummy load of 50 Ω in the place
 * of everything behind the output, the power of the step.
 */
export function chainOfStep(
  chain: RatedChain,
  { state = {}, place }: Pick<RunStep, 'state' | 'place'>,
  channel: RunChannel,
): SteppedChain {
  const stages = chain.stages.map((stage) => switched(stage, state))
  const output = outputPlane(stages)
  const dummy = state.load === 'dummy'
  const cut: RatedChain = dummy
    ? { ...chain, stages: stages.slice(0, output), load: { kind: 'fixed', rOhm: 50, xOhm: 0 } }
    : { ...chain, stages }
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
