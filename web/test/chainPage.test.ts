import { chainDocumentSchema } from '@saltline/contract'
import { readTouchstone, solveChain, carryToFeedPoint } from '@saltline/core'
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest'
import { chainActions } from '../src/editor/actions.ts'
import { answerChannel, chainOfDocument } from '../src/model/answers.ts'
import { ChainEditor } from '../src/editor/chainEditor.ts'
import type { Selection } from '../src/model/selection.ts'
import { chainOfDraft, firstDraft } from '../src/model/stationDraft.ts'
import { document, state } from './fixtures.ts'

describe('actions on a chain', () => {
  let editor: ChainEditor
  let selected: Selection | null
  let picked: string | null
  const actions = () =>
    chainActions(
      editor,
      (s) => (selected = s),
      (id, s) => {
        picked = id
        if (s) selected = s
      },
    )
  const stages = () => editor.getSnapshot().document.stages

  beforeEach(() => {
    vi.useFakeTimers()
    editor = new ChainEditor(
      state(),
      {
        length: 0,
        key: () => null,
        getItem: () => null,
        setItem: () => undefined,
        removeItem: () => undefined,
      },
      () => 'w',
    )
    selected = null
    picked = null
  })
  afterEach(() => {
    vi.clearAllTimers()
    vi.useRealTimers()
  })

  test('what is put in is selected, so that its first figure can be typed at once', () => {
    actions().insertAt(1, 'choke')
    expect(stages()[1]).toMatchObject({ kind: 'pad', part: 'choke' })
    expect(selected).toEqual({ kind: 'stage', id: stages()[1]!.id })
  })

  test('a copy is selected, a removed stage is not', () => {
    actions().duplicate('a')
    expect(selected).toEqual({ kind: 'stage', id: stages()[1]!.id })
    actions().remove(stages()[1]!.id)
    expect(selected).toBeNull()
    expect(stages()).toHaveLength(3)
  })

  test('inserting behind a stage opens the plane there', () => {
    actions().insertAfter('b')
    expect(selected).toEqual({ kind: 'plane', index: 2 })
  })

  test('moving goes one place, and no further than the ends', () => {
    actions().move('a', 1)
    actions().move('a', 1)
    actions().move('a', 1)
    expect(stages().map(({ id }) => id)).toEqual(['b', 'c', 'a'])
    actions().move('b', -1)
    expect(stages()[0]!.id).toBe('b')
  })

  test('a new channel is like the one beside it, without its name, and is opened', () => {
    const [first] = document.channels
    actions().addChannel({ ...first!, name: 'harbour' })
    const added = editor.getSnapshot().document.channels.at(-1)!
    expect(added).toMatchObject({ frequencyHz: first!.frequencyHz, powerW: first!.powerW })
    expect(added.name).toBeUndefined()
    expect([picked, selected]).toEqual([added.id, { kind: 'channel' }])
    actions().removeChannel(added.id)
    expect(picked).toBe(first!.id)
  })
})

describe('what a channel comes to', () => {
  test('waits for the sweep of its antenna', () => {
    const swept = {
      ...document,
      load: { kind: 'antenna' as const, name: 'A', antennaId: 'a', sweepId: 's' },
    }
    expect(chainOfDocument(swept, undefined)).toBeNull()
    expect(chainOfDocument(document, undefined)).not.toBeNull()
  })

  test('or says why it comes to nothing', () => {
    const sweep = { kind: 'sweep' as const, frequencyHz: [1e6, 2e6], re: [0, 0], im: [0, 0] }
    const swept = {
      ...document,
      load: { kind: 'antenna' as const, name: 'A', antennaId: 'a', sweepId: 's' },
    }
    const answer = answerChannel(
      chainOfDocument(swept, sweep)!,
      document.transmitter,
      document.channels[0]!,
    )
    expect(answer).toMatchObject({ ok: false, message: expect.stringContaining('1.000') as string })
  })
})

describe('a sweep on its way to the feed point', () => {
  // A resonator seen through the chain's stages, as an analyser at the desk would see it.
  const chain = {
    transmitter: document.transmitter,
    stages: document.stages,
    load: { kind: 'resonator' as const, resonanceHz: 8e6, rOhm: 40, q: 8 },
  }
  const rows = Array.from({ length: 21 }, (_, i) => {
    const hz = 7.5e6 + i * 50e3
    const { planes } = solveChain(chain, { frequencyHz: hz, powerW: 1 })
    return { hz, desk: planes[0]!.reflection, feed: planes.at(-1)!.reflection }
  })
  const measured = readTouchstone(
    `# Hz S RI R 50\n${rows.map(({ hz, desk }) => `${hz} ${desk.re} ${desk.im}`).join('\n')}`,
    50,
  )

  test('is carried through what lies between', () => {
    const carried = carryToFeedPoint(measured, document.stages)
    if (!carried.possible) throw new Error(carried.message)
    rows.forEach(({ feed }, i) => {
      expect(carried.sweep.re[i]).toBeCloseTo(feed.re, 6)
      expect(carried.sweep.im[i]).toBeCloseTo(feed.im, 6)
    })
  })

  test('stays as it is where it was measured at the feed point', () => {
    const carried = carryToFeedPoint(measured, [])
    expect(carried.possible && [...carried.sweep.re]).toEqual(
      [...measured.re].map((v) => expect.closeTo(v, 12) as number),
    )
  })

  test('that the cable forbids is explained by both that could give', () => {
    const open = { ...measured, re: measured.re.map(() => 0.95), im: measured.im.map(() => 0) }
    const carried = carryToFeedPoint(open, document.stages)
    expect(carried.possible).toBe(false)
    expect(!carried.possible && carried.message).toMatch(
      /21 of 21 points.*better or shorter cable.*somewhere else/,
    )
  })
})

describe('a new station', () => {
  test('has a valid chain at every step, also without any cable', () => {
    for (const change of [
      {},
      { leadM: 0, runM: 0 },
      { meter: true },
      { foldback: 'none' as const, peaked: true },
      { channels: [firstDraft.channels[0]!, { frequencyHz: 145.6e6, mode: 'FM' as const }] },
      { foldback: 'from' as const, fullPowerToSwr: 3 },
      { swrAt: 'load' as const },
    ]) {
      const made = chainOfDraft({ ...firstDraft, ...change })
      expect(chainDocumentSchema.safeParse(made).error).toBeUndefined()
      for (const channel of made.channels)
        expect(answerChannel(chainOfDocument(made, undefined)!, made.transmitter, channel).ok).toBe(
          true,
        )
    }
  })
})
