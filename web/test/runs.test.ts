import type { ChainDocument, RunBody, RunEntry } from '@saltline/contract'
import { planRun, runModel, runSheets } from '@saltline/core'
import { describe, expect, test } from 'vitest'
import { copyOfSheet, lostCautions, moved, stepsOf } from '../src/model/ownSheets.ts'
import {
  asItStands,
  earlierReading,
  entryOfThisPass,
  newRun,
  runChannelOf,
  runStationOf,
  withEntry,
} from '../src/model/runs.ts'
import { document } from './fixtures.ts'

const tuned: ChainDocument = {
  ...document,
  stages: [
    {
      id: 't',
      kind: 'tuner',
      name: 'Tuner',
      method: 'network',
      network: 'T',
      shuntAt: 'either',
      coilH: [1e-7, 2e-5],
      capacitorF: [1e-11, 3e-10],
      coilQ: 200,
      capacitorQ: 1000,
    },
    ...document.stages,
  ],
}
const sheet = (id: string) => runSheets.find((each) => each.id === id)!
const channel = tuned.channels[0]!
const chain = {
  transmitter: tuned.transmitter,
  stages: tuned.stages,
  load: tuned.load,
} as Parameters<typeof asItStands>[0]
const model = runModel(runStationOf(tuned, chain, { gear: [] }))
const run = (id: string) =>
  newRun(sheet(id), planRun(sheet(id), model, model.station.channels[0]!), {
    document: tuned,
    channel,
    by: 'watch',
  })
const begun = run('hand-tuner')
const entry = (stepId: string, more: Partial<RunEntry> = {}): RunEntry => ({
  stepId,
  at: '2026-05-01T08:00:00.000Z',
  outcome: 'done',
  ...more,
})
const at = (run: RunBody) => run.steps[run.next]!.id

describe('a run', () => {
  test('goes on step by step, back by a choice, and ends', () => {
    let run = begun
    while (at(run) !== 'better') run = withEntry(run, entry(at(run)))
    const again = withEntry(run, entry('better', { words: 'Yes: trim again' }), {
      backTo: 'coarse',
    })
    expect(at(again)).toBe('coarse')
    expect(withEntry(run, entry('better'), { end: 'stopped' }).outcome).toBe('stopped')
    let end = again
    while (end.outcome === 'running') end = withEntry(end, entry(at(end)))
    expect(end.outcome).toBe('done')
  })

  test('a step gone back to is corrected; one done again is not', () => {
    let run = begun
    while (at(run) !== 'better') run = withEntry(run, entry(at(run), { forwardW: 12 }))
    expect(entryOfThisPass(run, 'low')).toMatchObject({ forwardW: 12 })
    const again = withEntry(run, entry('better', { words: 'Yes: trim again' }), {
      backTo: 'coarse',
    })
    expect(entryOfThisPass(again, 'low')).toBeUndefined()
    // What lies before the way back stays as it was.
    expect(entryOfThisPass(again, 'bypass')).toMatchObject({ forwardW: 12 })
  })

  test('a jump is measured against the same place in the same state, not another power', () => {
    const levels = begun.steps.filter(({ id }) => id.startsWith('level-'))
    const run = { ...begun, entries: [entry(levels[0]!.id, { forwardW: 25 })] }
    expect(earlierReading(run, levels[1]!)).toBeUndefined()
    expect(earlierReading(run, levels[0]!)).toMatchObject({ forwardW: 25 })
  })

  test('only readings of the chain as it stands are for the log', () => {
    const of = (id: string) =>
      asItStands(
        chain,
        begun.steps.find((step) => step.id === id)!,
        runChannelOf(tuned, channel),
      )
    expect(of('bypass')).toBe(false)
    expect(of('low')).toBe(true)
    const dummy = run('into-dummy-load').steps.find(({ id }) => id === 'full')!
    expect(asItStands(chain, dummy, runChannelOf(tuned, channel))).toBe(false)
  })
})

describe('a sheet of one’s own', () => {
  test('a copy has every step; a caution taken out is named', () => {
    const copy = copyOfSheet(sheet('amplifier-loading'))
    expect(stepsOf(copy.steps)).toHaveLength(stepsOf(sheet('amplifier-loading').steps).length)
    expect(lostCautions(copy)).toEqual([])
    const bare = {
      ...copy,
      steps: copy.steps.filter((step) => 'over' in step || step.kind !== 'caution'),
    }
    expect(lostCautions(bare).map(({ id }) => id)).toEqual(['rules', 'high-voltage', 'hot-load'])
  })
  test('moves up and down, and stays inside', () => {
    expect(moved(['a', 'b', 'c'], 0, 1)).toEqual(['b', 'a', 'c'])
    expect(moved(['a', 'b', 'c'], 0, -1)).toEqual(['a', 'b', 'c'])
    expect(moved(['a', 'b', 'c'], 2, -1)).toEqual(['a', 'c', 'b'])
  })
})
