/** A sheet written out for a chain: loops done, steps of other chains left out. */
import type { ModeId } from '../source/modes.ts'
import type { Surroundings } from '../limits/stress.ts'
import { belongs, type FittingChain } from './fits.ts'
import type { RunLoop, RunSheet, RunStep } from './sheet.ts'

/** A channel of the chain, as far as a sheet asks for it. */
export interface RunChannel {
  id: string
  /** How it is called on the page. */
  name: string
  frequencyHz: number
  mode: ModeId
  /** What the transmitter is set to, W PEP. */
  powerW: number
  /** What bounds the chain there: ambient temperature, licence, ratings; 40 °C and nothing else unless given. */
  around?: Surroundings | undefined
}

/** A step on its channel, in a list without loops. */
export interface ExpandedStep extends RunStep {
  channelId: string
}

/** An expanded step that may still have {level} in its words: the watts of its round, once they are known. */
export interface WrittenStep extends ExpandedStep {
  /** Its round of a loop over levels. */
  round?: number | undefined
}

const isLoop = (step: RunStep | RunLoop): step is RunLoop => 'over' in step

/**
 * The steps of a sheet one after the other: loops are written out, and ids stay unique.
 *
 * @param channel where the run begins
 * @param channels where loops over channels go, the first one first
 */
export function expandSheet(
  { steps }: Pick<RunSheet, 'steps'>,
  chain: FittingChain,
  channel: RunChannel,
  channels: readonly RunChannel[],
): WrittenStep[] {
  const others = [channel, ...channels.filter(({ id }) => id !== channel.id)]
  const highest = others.reduce((a, b) => (b.frequencyHz > a.frequencyHz ? b : a))
  const fitting = (own: readonly RunStep[]) =>
    own.filter((step) => belongs(chain, step)).map((step) => withoutMissing(chain, step))
  return steps.flatMap((step): WrittenStep[] => {
    if (!isLoop(step))
      return fitting([step]).map((own) => ({
        ...own,
        channelId: (own.on === 'highest' ? highest : channel).id,
      }))
    const inner = fitting(step.steps)
    if (step.over === 'channels')
      return others.flatMap(({ id, name }, i) =>
        inner.map((own) => withLevel({ ...inRound(own, inner, i), channelId: id }, name)),
      )
    return (step.levels ?? []).flatMap((share, i) =>
      inner.map((own) => ({
        ...inRound(own, inner, i),
        channelId: channel.id,
        state: { ...own.state, share },
        round: i,
      })),
    )
  })
}

/** A way back inside the loop stays in its own round. */
const inRound = (step: RunStep, all: readonly RunStep[], round: number): RunStep => ({
  ...step,
  id: `${step.id}-${round + 1}`,
  choices: step.choices?.map((choice) => ({
    ...choice,
    ...(choice.backTo !== undefined &&
      all.some(({ id }) => id === choice.backTo) && { backTo: `${choice.backTo}-${round + 1}` }),
  })),
})

/** {level} in the words of a step, put in. */
export const withLevel = <S extends RunStep>(step: S, label: string): S => ({
  ...step,
  title: step.title.replaceAll('{level}', label),
  text: step.text?.replaceAll('{level}', label),
})

/** What a step says of parts that the chain does not have, left out. */
function withoutMissing(chain: FittingChain, step: RunStep): RunStep {
  const { state } = step
  if (!state) return step
  return {
    ...step,
    state: {
      ...state,
      tuner: belongs(chain, { when: 'tuner' }) ? state.tuner : undefined,
      amplifier: belongs(chain, { when: 'amplifier' }) ? state.amplifier : undefined,
    },
  }
}
