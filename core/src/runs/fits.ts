/** Which sheets, and which of their steps, a chain is for. */
import type { RunCondition, RunNeed, RunSheet } from './sheet.ts'

/** Stages of a chain, as far as they decide which sheets and steps fit. */
export interface FittingChain {
  stages: readonly {
    kind: string
    bypassed?: boolean | undefined
    method?: string | undefined
    automatic?: boolean | undefined
    behaviour?: string | undefined
  }[]
}

type Stages = FittingChain['stages']
const stagesOf = ({ stages }: FittingChain, kind: string): Stages =>
  stages.filter((stage) => stage.kind === kind)
const inUse = (stages: Stages): boolean => stages.some(({ bypassed }) => !bypassed)
/** An amplifier whose output network is tuned for its load. */
const tuned = (chain: FittingChain): Stages =>
  stagesOf(chain, 'amplifier').filter(({ behaviour }) => behaviour === 'peaked')

const conditions: Record<RunCondition, (chain: FittingChain) => boolean> = {
  tuner: (chain) => stagesOf(chain, 'tuner').length > 0,
  'tuner in use': (chain) => inUse(stagesOf(chain, 'tuner')),
  'tuner not in use': (chain) => conditions.tuner(chain) && !conditions['tuner in use'](chain),
  amplifier: (chain) => stagesOf(chain, 'amplifier').length > 0,
  'amplifier in use': (chain) => inUse(stagesOf(chain, 'amplifier')),
  'amplifier not in use': (chain) =>
    conditions.amplifier(chain) && !conditions['amplifier in use'](chain),
  'tuned amplifier': (chain) => tuned(chain).length > 0,
  'tuned amplifier in use': (chain) => inUse(tuned(chain)),
}

/** Whether a step that names a condition belongs to a chain. */
export const belongs = (
  chain: FittingChain,
  { when }: { when?: RunCondition | undefined },
): boolean => when === undefined || conditions[when](chain)

const has: Record<RunNeed, (chain: FittingChain) => boolean> = {
  tuner: conditions.tuner,
  'hand tuner': (chain) =>
    stagesOf(chain, 'tuner').some(({ method, automatic }) => method === 'network' && !automatic),
  'automatic tuner': (chain) =>
    stagesOf(chain, 'tuner').some(
      ({ method, automatic }) => method === 'stepped' || automatic === true,
    ),
  amplifier: conditions.amplifier,
  cable: (chain) => stagesOf(chain, 'line').length > 0,
}

/** What a sheet needs that a chain does not have; empty where it fits. */
export const missingFor = (chain: FittingChain, { needs }: Pick<RunSheet, 'needs'>): RunNeed[] =>
  needs.filter((need) => !has[need](chain))
