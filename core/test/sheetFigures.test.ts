/** The figures of the sheets that ship, side by side: a power, a time or a limit that changes is changed here too. */
import { expect, test } from 'vitest'
import { isKeyed, runSheets, type RunStep } from '../src/index.ts'

const W = (share: number) => `${100 * share} %`

const figures = (step: RunStep) => {
  const { id, seconds, mostSwr, rest, makes, tunes, state = {} } = step
  return [
    id,
    ...(rest ? ['rest'] : []),
    ...(state.window ? ['window'] : []),
    ...(state.share === undefined ? [] : [W(state.share)]),
    ...(state.watts === undefined ? [] : [`${state.watts} W`]),
    ...(seconds === undefined ? [] : [`${seconds} s`]),
    ...(mostSwr === undefined ? [] : [`SWR ${mostSwr}`]),
    ...Object.entries({ ...makes }).map(([what, to]) => `${what}: ${to}`),
    ...(tunes ? [`tunes ${tunes}`] : []),
    ...(isKeyed(step)
      ? [
          `keyed ${['tuner', 'amplifier', 'load'].map((part) => state[part as 'tuner'] ?? '-').join(' ')}`,
        ]
      : []),
  ].join(', ')
}

test.each(runSheets)('$id', ({ steps }) => {
  const table = steps.flatMap((block) =>
    'over' in block
      ? [
          `each of ${block.over === 'levels' ? block.levels!.map(W).join(', ') : block.over}:`,
          ...block.steps.map((step) => `  ${figures(step)}`),
        ]
      : [figures(block)],
  )
  expect(`\n${table.filter((row) => /,|:/.test(row)).join('\n')}\n`).toMatchSnapshot()
})

test.each(runSheets)('$id: every step has an id of its own, in loops as well', ({ steps }) => {
  const ids = steps
    .flatMap((block) => ('over' in block ? block.steps : [block]))
    .map(({ id }) => id)
  expect(ids.filter((id, i) => ids.indexOf(id) !== i)).toEqual([])
})
