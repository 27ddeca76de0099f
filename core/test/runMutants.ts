/** Sheets made worse by one change: a step dropped, two swapped, a power raised, a change of the station forgotten. */
import type { RunSheet, RunStep } from '../src/index.ts'
import type { Chance } from './runStation.ts'

type Block = RunSheet['steps'][number]

/** Every step of a sheet with what takes its place; null leaves it out. */
function withSteps(
  sheet: RunSheet,
  change: (step: RunStep, index: number) => RunStep | null,
): RunSheet {
  let index = -1
  const one = (step: RunStep): RunStep[] => {
    index++
    const changed = change(step, index)
    return changed ? [changed] : []
  }
  const steps = sheet.steps.map((block): Block | Block[] =>
    'over' in block ? { ...block, steps: block.steps.flatMap(one) } : one(block),
  )
  return { ...sheet, steps: steps.flat() }
}

/** A sheet with one change, and what it is. */
export function mutant(
  sheet: RunSheet,
  { one, between }: Chance,
): { sheet: RunSheet; change: string } {
  const all = sheet.steps.flatMap((block) => ('over' in block ? [...block.steps] : [block]))
  const at = Math.floor(between(0, all.length))
  const step = all[at]!
  const what = one(['drop', 'swap', 'raise', 'raise', 'drop', 'forget'] as const)
  switch (what) {
    case 'drop':
      return {
        sheet: withSteps(sheet, (own, i) => (i === at ? null : own)),
        change: `without ${step.id}`,
      }
    case 'swap': {
      const other = all[at + 1]
      if (!other) return mutant(sheet, { one, between } as Chance)
      return {
        sheet: withSteps(sheet, (own, i) => (i === at ? other : i === at + 1 ? step : own)),
        change: `${other.id} before ${step.id}`,
      }
    }
    case 'raise': {
      const powered = all.filter(({ state }) => state)
      if (powered.length === 0) return mutant(sheet, { one, between } as Chance)
      const raised = one(powered)
      const share = one([0.5, 1])
      return {
        sheet: withSteps(sheet, (own) =>
          own === raised ? { ...own, state: { ...own.state, window: undefined, share } } : own,
        ),
        change: `${raised.id} at ${share}`,
      }
    }
    case 'forget':
      return {
        sheet: withSteps(sheet, (own, i) =>
          i === at ? { ...own, makes: undefined, tunes: undefined } : own,
        ),
        change: `${step.id} changes nothing`,
      }
  }
}
