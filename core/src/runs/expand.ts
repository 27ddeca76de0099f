import type { ModeId } from '../source/modes.ts'
import type { RunLoop, RunNeed, RunSheet, RunStep } from './sheet.ts'

/** A channel of the chain, as far as a sheet asks for it. */
export interface RunChannel {
  id: string
  /** How it is called on the page. */
  name: string
  frequencyHz: number
  mode: ModeId
  powerW: number
}

/** What the tuner of a chain needs for tuning, as its maker gives it. */
export interface TuningNeeds {
  /** Least and most carrier, W. */
  tuneWindowW?: readonly [number, number] | undefined
  /** How long it takes at most, s. */
  tuneTimeS?: number | undefined
}

/** How far up in its window a tuner is given its carrier: enough to sense, never too much. */
const UPPER_PART = 0.7

/** A step on its channel, in a list without loops. */
export interface ExpandedStep extends RunStep {
  channelId: string
}

const isLoop = (step: RunStep | RunLoop): step is RunLoop => 'over' in step

/**
 * The steps of a sheet one after the other: loops are written out, and ids stay unique.
 *
 * @param channel where the run begins
 * @param channels where loops over channels go, the first one first
 * @param tuner what the chain's tuner needs for tuning
 */
export function expandSheet(
  { steps }: Pick<RunSheet, 'steps'>,
  channel: RunChannel,
  channels: readonly RunChannel[],
  tuner: TuningNeeds = {},
): ExpandedStep[] {
  return writtenOut(steps, channel, channels).map((step) => forTuner(step, tuner))
}

/** The carrier inside the tuner's window, and as long as it takes. */
function forTuner(step: ExpandedStep, { tuneWindowW, tuneTimeS }: TuningNeeds): ExpandedStep {
  if (!step.state?.window) return step
  const [low, high] = tuneWindowW ?? [null, null]
  return {
    ...step,
    ...(step.kind === 'hold' && tuneTimeS !== undefined && { seconds: tuneTimeS }),
    ...(low !== null &&
      high !== null && {
        text: [`${low} to ${high} W is its window.`, step.text].filter(Boolean).join(' '),
        state: { ...step.state, watts: Number((low + UPPER_PART * (high - low)).toPrecision(2)) },
      }),
  }
}

function writtenOut(
  steps: RunSheet['steps'],
  channel: RunChannel,
  channels: readonly RunChannel[],
): ExpandedStep[] {
  const others = [channel, ...channels.filter(({ id }) => id !== channel.id)]
  return steps.flatMap((step): ExpandedStep[] => {
    if (!isLoop(step)) return [{ ...step, channelId: channel.id }]
    const rounds =
      step.over === 'channels'
        ? others.map((each) => ({ label: each.name, channelId: each.id, share: undefined }))
        : (step.levels ?? []).map((share) => ({
            label: `${Number((share * channel.powerW).toPrecision(3))} W`,
            channelId: channel.id,
            share,
          }))
    return rounds.flatMap(({ label, channelId, share }, round) =>
      step.steps.map((inner): ExpandedStep => ({
        ...inner,
        id: `${inner.id}-${round + 1}`,
        title: inner.title.replaceAll('{level}', label),
        text: inner.text?.replaceAll('{level}', label),
        channelId,
        choices: inner.choices?.map((choice) => ({
          ...choice,
          // A way back inside the loop stays in its own round.
          ...(choice.backTo !== undefined &&
            step.steps.some(({ id }) => id === choice.backTo) && {
              backTo: `${choice.backTo}-${round + 1}`,
            }),
        })),
        ...(share !== undefined && { state: { ...inner.state, share } }),
      })),
    )
  })
}

/** Stages of a chain, as far as it decides which sheets fit. */
export interface FittingChain {
  stages: readonly {
    kind: string
    bypassed?: boolean | undefined
    method?: string | undefined
    automatic?: boolean | undefined
  }[]
}

const tunerIn = ({ stages }: FittingChain) => stages.find(({ kind }) => kind === 'tuner')

const has: Record<RunNeed, (chain: FittingChain) => boolean> = {
  tuner: (chain) => tunerIn(chain) !== undefined,
  'hand tuner': (chain) => {
    const tuner = tunerIn(chain)
    return tuner?.method === 'network' && !tuner.automatic
  },
  'automatic tuner': (chain) => {
    const tuner = tunerIn(chain)
    return tuner !== undefined && (tuner.method === 'stepped' || tuner.automatic === true)
  },
  amplifier: ({ stages }) => stages.some(({ kind }) => kind === 'amplifier'),
  cable: ({ stages }) => stages.some(({ kind }) => kind === 'line'),
}

/** What a sheet needs that a chain does not have; empty where it fits. */
export const missingFor = (chain: FittingChain, { needs }: Pick<RunSheet, 'needs'>): RunNeed[] =>
  needs.filter((need) => !has[need](chain))
