/** A chain's document as it begins, changes, is put back, compared and run. */
import {
  type Attempt,
  type ChainDocument,
  chainDocumentSchema,
  type Change,
  type RunBody,
  type RunEntry,
  type RunSheetDocument,
} from '@saltline/contract'
import {
  cableClasses,
  type Chain,
  runSheets,
  type StopReason,
  carryToFeedPoint,
} from '@saltline/core'
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest'
import {
  alternativesOf,
  applyAlternative,
  changeAlternative,
  changeText,
  expenseOf,
  removeAlternative,
  sweepOf,
  takeAlternative,
} from '../src/model/alternatives.ts'
import {
  answerChannel,
  answerOf,
  type ChannelAnswer,
  chainOfDocument,
  operatingPoint,
  ratedOn,
  settingOf,
} from '../src/model/answers.ts'
import { keepAttempt, newSeed, progressOf, readAttempts } from '../src/model/attempts.ts'
import { describeChange, summaryOf } from '../src/model/describeChange.ts'
import {
  addChannel,
  changeChannel,
  changeStage,
  duplicateStage,
  insertStage,
  moveStage,
  newStage,
  removeChannel,
} from '../src/model/edits.ts'
import {
  changeOf,
  changes,
  lostCautions,
  makesOf,
  moved,
  ownSheets,
  sheetsOf,
} from '../src/model/ownSheets.ts'
import { putBack } from '../src/model/putBack.ts'
import { reachOf } from '../src/model/reach.ts'
import {
  bodyOf,
  doneOf,
  entryFigure,
  lastEntry,
  needText,
  placeWords,
  runChannelOf,
  stateWords,
  stopWords,
  withEntry,
} from '../src/model/runs.ts'
import { chainOfDraft, firstDraft, retuned, whyNotDraft } from '../src/model/stationDraft.ts'
import { tunerPlaceChanges, tunerPlaceNames } from '../src/model/tunerPlace.ts'
import { withRanges } from '../src/model/withRanges.ts'
import { topOf, zoomOf } from '../src/model/zoom.ts'
import { document } from './fixtures.ts'

const plain = (text: string) => text.replaceAll('\u00a0', ' ')
const cableOf = (id: string) => cableClasses.find((one) => one.id === id)!

describe('a new station', () => {
  const kinds = (draft: Partial<typeof firstDraft>) =>
    chainOfDraft({ ...firstDraft, ...draft }).stages.map(({ name }) => name)

  test('every answer has a default, and they make a chain that is kept and solved', () => {
    const chain = chainOfDraft(firstDraft)
    expect(chainDocumentSchema.parse(chain)).toEqual(chain)
    const answer = answerChannel(
      chainOfDocument(chain, undefined)!,
      chain.transmitter,
      chain.channels[0]!,
    )
    expect(answer.ok).toBe(true)
    expect(chain).toMatchObject({
      transmitter: { name: 'Transmitter', ratedW: 100, behaviour: 'levelled' },
      load: { kind: 'swr', name: 'Antenna', read: { swr: 1.5, frequencyHz: 7.1e6 } },
      channels: [{ frequencyHz: 7.1e6, mode: 'voice-plain', powerW: 100 }],
    })
  })

  test('the lead, the meter and the run are put in where there are any, in this order', () => {
    expect(kinds({})).toEqual(['Patch lead', 'Long run'])
    expect(kinds({ meter: true })).toEqual(['Patch lead', 'Wattmeter', 'Long run'])
    expect(kinds({ leadM: 0 })).toEqual(['Long run'])
    expect(kinds({ runM: 0, meter: true })).toEqual(['Patch lead', 'Wattmeter'])
    expect(kinds({ runM: 0, leadM: 0 })).toEqual([])
  })

  test('each answer goes where it belongs', () => {
    const chain = chainOfDraft({
      ...firstDraft,
      transmitter: 'Petrel',
      powerW: 50,
      foldback: 'none',
      peaked: true,
      leadM: 2,
      leadCable: 'foam-10',
      meter: true,
      runM: 33,
      runCable: 'pe-5',
      antenna: 'Vee',
      swr: 3,
      swrAt: 'load',
      channels: [
        { frequencyHz: 4e6, mode: 'voice-plain' },
        { frequencyHz: 8e6, mode: 'data' },
      ],
    })
    expect(chain.transmitter).toEqual({
      name: 'Petrel',
      ratedW: 50,
      behaviour: 'peaked',
      foldback: [],
    })
    expect(chain.stages).toMatchObject([
      { lengthM: 2, cable: { gearId: 'foam-10', name: cableOf('foam-10').name } },
      { kind: 'pad', part: 'meter', lossDb: 0.05 },
      { lengthM: 33, cable: { gearId: 'pe-5' } },
    ])
    expect(chain.load).toEqual({ kind: 'swr', name: 'Vee', swr: 3 })
    expect(chain.channels).toMatchObject([
      { frequencyHz: 4e6, mode: 'voice-plain', powerW: 50 },
      { frequencyHz: 8e6, mode: 'data', powerW: 50 },
    ])
    expect(new Set([...chain.stages, ...chain.channels].map(({ id }) => id)).size).toBe(5)
  })

  test.each(cableClasses.map(({ id }) => id))('%s can be chosen, as lead and as run', (id) => {
    const chain = chainOfDraft({ ...firstDraft, leadCable: id, runCable: id })
    expect(chainDocumentSchema.safeParse(chain).error).toBeUndefined()
  })

  test('foldback that begins elsewhere keeps its shape', () => {
    const draft = { ...firstDraft, foldback: 'from' as const, fullPowerToSwr: 3 }
    expect(chainOfDraft(draft).transmitter.foldback).toEqual([
      [3, 1],
      [4, 0.85],
      [6, 0.5],
      [10, 0.25],
      [20, 0.1],
    ])
  })

  test('the mode of a channel follows its frequency until somebody chooses one', () => {
    const begun = firstDraft.channels[0]!
    expect(retuned(begun, 145.6e6)).toEqual({ frequencyHz: 145.6e6, mode: 'FM' })
    expect(retuned(begun, 121.5e6).mode).toBe('AM')
    expect(retuned(retuned(begun, 145.6e6), 7e6).mode).toBe('voice-plain')
    expect(retuned({ ...begun, mode: 'data' }, 145.6e6).mode).toBe('data')
  })

  test('an SWR that no cable of this loss lets through is said, and the chain solves all the same', () => {
    const draft = { ...firstDraft, runM: 200, runCable: 'pe-5', swr: 8 }
    expect(whyNotDraft(draft)).toMatch(/even an open end would show/)
    expect(chainOfDraft(draft).load).toMatchObject({ swr: 8 })
    expect(whyNotDraft({ ...draft, swrAt: 'load' })).toBeNull()
  })

  test('a solid-state set holds full power to 1.5, half at 3, and little beyond', () => {
    const { foldback } = chainOfDraft(firstDraft).transmitter
    const at = (swr: number) => foldback.find(([own]) => own === swr)![1]
    expect([at(1.5), at(3), at(10)]).toEqual([1, 0.5, 0.1])
    for (const [i, [swr, share]] of foldback.entries())
      if (i > 0) {
        expect(swr).toBeGreaterThan(foldback[i - 1]![0])
        expect(share).toBeLessThan(foldback[i - 1]![1])
      }
  })
})

describe('a new filter', () => {
  test.each([
    [7.1e6, 'lpf-hf'],
    [30e6, 'lpf-hf'],
    [50e6, 'lpf-2m'],
    [156.45e6, 'lpf-2m'],
  ])('on %d Hz is %s, and lets it through', (frequencyHz, gearId) => {
    const on = { ...document, channels: [{ ...document.channels[0]!, frequencyHz }] }
    const made = newStage('filter', on)
    expect(made).toMatchObject({ kind: 'pad', part: 'filter', gearId })
    const [low, high] = (made as { passes: [number, number] }).passes
    expect(low).toBeLessThanOrEqual(frequencyHz)
    expect(high).toBeGreaterThanOrEqual(frequencyHz)
  })
})

describe('what became of a document, in phrases', () => {
  const after = (change: Partial<ChainDocument>) =>
    describeChange(document, { ...document, ...change }).map(plain)
  const radio = (change: object) =>
    after({ transmitter: { ...document.transmitter, ...change } as ChainDocument['transmitter'] })
  const channel = (change: object) => after(changeChannel('c1', change)(document))
  const stage = (change: object) =>
    after(changeStage('b', (own) => ({ ...own, ...change }) as typeof own)(document))

  test('nothing where nothing changed', () => expect(after({})).toEqual([]))
  test.each<[Partial<ChainDocument>, string[]]>([
    [{ name: 'Other' }, ['renamed to Other']],
    [{ note: 'wet' }, ['note changed']],
    [{ farStation: { name: 'x' } as never }, ['far station changed']],
    [{ stages: document.stages.toReversed() }, ['stages reordered']],
    [{ stages: document.stages.slice(1) }, ['Lead removed']],
    [
      { stages: [...document.stages, { ...document.stages[1]!, id: 'n', name: 'New' }] },
      ['New added'],
    ],
    [{ channels: document.channels.slice(1) }, ['4.146 MHz removed']],
    [{ load: { kind: 'fixed', name: 'Whip', rOhm: 50, xOhm: 0 } }, ['antenna: Vee → Whip']],
    [{ load: { kind: 'fixed', name: 'Vee', rOhm: 60, xOhm: 0 } }, ['antenna: changed']],
    [{ load: { kind: 'swr', name: 'Vee', swr: 2 } }, ['antenna: changed']],
  ])('%#', (change, phrases) => expect(after(change)).toEqual(phrases))

  test('an antenna of which the SWR is known', () => {
    const swr = (value: number) => ({
      ...document,
      load: { kind: 'swr' as const, name: 'Vee', swr: value },
    })
    expect(describeChange(swr(2), swr(3))).toEqual(['antenna: SWR 2.00 → 3.00'])
  })

  test('the transmitter, figure by figure', () => {
    expect(radio({ name: 'Dunlin' })).toEqual(['Dunlin: Petrel → Dunlin'])
    expect(radio({ ratedW: 50 })).toEqual(['Petrel: 100 W → 50 W'])
    expect(radio({ behaviour: 'peaked' })).toEqual(['Petrel: tuned output'])
    expect(radio({ foldback: [] })).toEqual(['Petrel: foldback'])
    expect(radio({ reduced: { on: true, powerW: 20 } })).toEqual(['Petrel: reduced to 20 W'])
    expect(radio({ reduced: { on: false, powerW: 20 } })).toEqual(['Petrel: full power'])
    expect(radio({ bands: [] })).toEqual(['Petrel: changed'])
  })

  test('a stage: its name, whether it is in circuit, its kind, its figures', () => {
    expect(stage({ name: 'Wattmeter' })).toEqual(['Wattmeter: renamed from Meter'])
    expect(stage({ bypassed: true })).toEqual(['Meter: bypassed'])
    expect(stage({ lossDb: 0.2 })).toEqual(['Meter: loss 0.10 dB → 0.20 dB'])
    expect(stage({ kind: 'series' })).toEqual(['Meter: another kind of part: series'])
    expect(stage({ limits: { averageW: 100 } })).toEqual(['Meter: changed'])
    const out = changeStage('b', (own) => ({ ...own, bypassed: true }))(document)
    expect(describeChange(out, document)).toEqual(['Meter: in circuit again'])
  })

  test('a channel', () => {
    expect(channel({ frequencyHz: 5e6 })).toEqual(['5.000 MHz: was 4.146 MHz'])
    expect(channel({ powerW: 50 })).toEqual(['4.146 MHz: 100 W → 50 W'])
    expect(channel({ mode: 'FM' })).toEqual(['4.146 MHz: FM'])
    expect(channel({ name: 'Working' })).toEqual(['4.146 MHz: renamed'])
  })

  test('alternatives, and all of it in one line of at most 120 characters', () => {
    const one = { id: 'x', name: 'Thick', changes: [] }
    const having = { ...document, alternatives: [one] }
    expect(describeChange(document, having)).toEqual(['alternative Thick added'])
    expect(describeChange(having, document)).toEqual(['alternative Thick removed'])
    expect(
      describeChange(having, { ...document, alternatives: [{ ...one, name: 'Thin' }] }),
    ).toEqual(['alternative Thin changed'])
    expect(summaryOf(document, { ...having, name: 'B' })).toBe(
      'renamed to B; alternative Thick added',
    )
    expect(summaryOf(document, { ...document, name: 'x'.repeat(200) })).toHaveLength(120)
  })
})

describe('alternatives', () => {
  const of = (...made: Change[]) => ({ id: 'a', name: 'A', changes: made })
  const apply = (...made: Change[]) => applyAlternative(document, of(...made))
  const why = (change: Change) => apply(change).misfits[0]?.why
  const pad = { id: 'p', kind: 'pad', part: 'attenuator', name: 'Pad', lossDb: 3 } as const

  test('what does not fit any more is named, and nothing changed by it', () => {
    const { cable } = document.stages[0] as Extract<
      ChainDocument['stages'][number],
      { kind: 'line' }
    >
    expect(why({ kind: 'cable', stageId: 'b', cable })).toBe('Meter is no cable any more.')
    expect(why({ kind: 'length', stageId: 'b', lengthM: 3 })).toBe('Meter is no cable any more.')
    expect(why({ kind: 'remove', stageId: 'gone' })).toBe('That part is no longer in the chain.')
    expect(why({ kind: 'insert', stage: { ...pad, id: 'a' }, behind: null })).toBe(
      'It is in the chain already.',
    )
    const nowhere = /stand behind is no longer in the chain/
    expect(why({ kind: 'insert', stage: pad, behind: 'gone' })).toMatch(nowhere)
    expect(why({ kind: 'move', stageId: 'a', behind: 'gone' })).toMatch(nowhere)
    expect(apply({ kind: 'remove', stageId: 'gone' }).document).toBe(document)
  })

  test('each change does what it says and no more', () => {
    const { document: shorter } = apply({ kind: 'length', stageId: 'a', lengthM: 4 })
    expect(shorter).toEqual({
      ...document,
      stages: document.stages.map((s) => (s.id === 'a' ? { ...s, lengthM: 4 } : s)),
    })
    const { document: other } = apply({ kind: 'replace', stageId: 'b', stage: pad })
    expect(other.stages[1]).toEqual({ ...pad, id: 'b', name: 'Meter' })
    const { document: more } = apply({ kind: 'insert', stage: pad, behind: 'a' })
    expect(more.stages.map(({ id }) => id)).toEqual(['a', 'p', 'b', 'c'])
    expect(
      apply({ kind: 'insert', stage: pad, behind: null }).document.stages.map(({ id }) => id),
    ).toEqual(['p', 'a', 'b', 'c'])
    const { document: less } = apply({ kind: 'power', powerW: 20 })
    expect(less.channels.map(({ powerW }) => powerW)).toEqual([20, 20])
    const load = { kind: 'swr', name: 'Whip', swr: 2 } as const
    expect(apply({ kind: 'antenna', load }).document.load).toBe(load)
    expect(sweepOf(load)).toBeUndefined()
    expect(sweepOf({ kind: 'antenna', sweepId: 's' } as never)).toBe('s')
  })

  test('in a few words', () => {
    const units = { length: 'm', power: 'W' } as const
    const text = (change: Change) => plain(changeText(change, document, units))
    const cable = { ...(document.stages[0] as { cable: object }).cable, name: 'Thick' } as never
    expect(text({ kind: 'cable', stageId: 'a', cable })).toBe('Lead: Thick')
    expect(text({ kind: 'length', stageId: 'c', lengthM: 12 })).toBe('Run: 12 m')
    expect(text({ kind: 'replace', stageId: 'b', stage: pad })).toBe(
      'Meter: Pad with other figures',
    )
    expect(text({ kind: 'insert', stage: pad, behind: 'a' })).toBe('Pad put in behind Lead')
    expect(text({ kind: 'insert', stage: pad, behind: null })).toBe('Pad put in at the transmitter')
    expect(text({ kind: 'move', stageId: 'a', behind: 'gone' })).toBe(
      'Lead behind a part that is gone',
    )
    expect(text({ kind: 'remove', stageId: 'b' })).toBe('without Meter')
    expect(text({ kind: 'power', powerW: 20 })).toBe('20 W set on every channel')
    const load = { kind: 'swr', name: 'Whip', swr: 2 } as const
    expect(text({ kind: 'antenna', load })).toBe('antenna: Whip')
  })

  test('the list: changed, removed, taken; one that is not there changes nothing', () => {
    const having: ChainDocument = {
      ...document,
      alternatives: [of(), { ...of({ kind: 'power', powerW: 20 }), id: 'b' }],
    }
    const renamed = changeAlternative('b', (own) => ({ ...own, name: 'B' }))(having)
    expect(alternativesOf(renamed).map(({ name }) => name)).toEqual(['A', 'B'])
    expect(alternativesOf(removeAlternative('a')(having)).map(({ id }) => id)).toEqual(['b'])
    const taken = takeAlternative('b')(having)
    expect(taken.channels.map(({ powerW }) => powerW)).toEqual([20, 20])
    expect(alternativesOf(taken).map(({ id }) => id)).toEqual(['a'])
    expect(takeAlternative('none')(having)).toBe(having)
  })

  test('the weight of all cable, and the tightest bend of what is new', () => {
    const foam = cableOf('foam-10')
    const thin = cableOf('pe-5')
    const as = (of: typeof foam) => ({ ...of, gearId: of.id }) as never
    const both: ChainDocument = {
      ...document,
      stages: document.stages.map((s) => (s.kind === 'line' ? { ...s, cable: as(thin) } : s)),
    }
    const store = { gear: [], prices: { perM: {}, connectorPair: 9 } }
    const none = expenseOf(both, null, store)
    expect(none.price).toBe(0)
    expect(none.bendMm).toBeNull()
    // 50 m of it.
    expect(none.weightKg).toBeCloseTo(thin.weightKgPer100m! / 2, 9)
    const changed = expenseOf(
      both,
      of(
        { kind: 'cable', stageId: 'a', cable: as(foam) },
        { kind: 'length', stageId: 'c', lengthM: 60 },
      ),
      store,
    )
    expect(changed.bendMm).toBe(Math.max(foam.minBendMm!, thin.minBendMm!))
    expect(changed.unpriced).toEqual([foam.name, thin.name])
    expect(changed.weightKg).toBeCloseTo(
      (10 * foam.weightKgPer100m! + 60 * thin.weightKgPer100m!) / 100,
      9,
    )
    expect(expenseOf(document, null, store).weightKg).toBeNull()
  })

  test('a tuner in another place: behind the amplifier at the radio, at the end at the feed point', () => {
    const amplifier = { ...newStage('amplifier', document), id: 'amp' }
    const amplified = insertStage(1, amplifier)(document)
    const ids = (place: 'none' | 'radio' | 'feedPoint', from: ChainDocument) =>
      applyAlternative(from, of(...tunerPlaceChanges(from, place))).document.stages.map(
        ({ kind }) => kind,
      )
    expect(ids('radio', amplified)).toEqual(['line', 'amplifier', 'tuner', 'pad', 'line'])
    expect(ids('feedPoint', amplified)).toEqual(['line', 'amplifier', 'pad', 'line', 'tuner'])
    const bypassed = changeStage('amp', (own) => ({ ...own, bypassed: true }))(amplified)
    expect(ids('radio', bypassed)[0]).toBe('tuner')
    const two = insertStage(
      0,
      newStage('tuner', document),
    )(insertStage(2, newStage('tuner', document))(document))
    expect(ids('feedPoint', two)).toEqual(['line', 'pad', 'line', 'tuner'])
    expect(ids('none', two)).toEqual(['line', 'pad', 'line'])
    expect(Object.values(tunerPlaceNames)).toHaveLength(3)
  })
})

describe('putting back', () => {
  test('a field deep in a list is taken from the item of the same id', () => {
    const edited = structuredClone(document)
    ;(edited.stages[2] as { cable: { k1DbPer100m: number } }).cable.k1DbPer100m = 9
    edited.stages.reverse()
    const mended = putBack(edited, document, ['/stages/0/cable/k1DbPer100m'])
    expect(mended.stages[0]).toEqual(document.stages[2])
    expect(edited.stages[0]).not.toEqual(document.stages[2])
  })
  test('names with strokes and tildes are read as they are written', () => {
    const odd = { ...document, 'a/b~c': 1 } as unknown as ChainDocument
    const saved = { ...document, 'a/b~c': 2 } as unknown as ChainDocument
    expect(putBack(odd, saved, ['/a~1b~0c'])).toMatchObject({ 'a/b~c': 2 })
  })
  test('what the item did not have goes; a whole item comes as a copy', () => {
    const edited = structuredClone(document)
    edited.stages[0]!.bypassed = true
    expect(putBack(edited, document, ['/stages/0/bypassed']).stages[0]).toEqual(document.stages[0])
    const back = putBack({ ...document, load: { ...document.load, name: 'x' } }, document, [
      '/load',
    ])
    expect(back.load).toEqual(document.load)
    expect(back.load).not.toBe(document.load)
    expect(putBack(document, document, ['/nowhere/at/all'])).toEqual(document)
  })
})

describe('edits', () => {
  test('a stage that is not there changes nothing', () => {
    expect(moveStage('gone', 0)(document)).toBe(document)
    expect(duplicateStage('gone', 'x')(document)).toBe(document)
  })
  test('names that are free', () => {
    const twice = duplicateStage('a', 'x')(document)
    expect(twice.stages.map(({ name }) => name)).toEqual(['Lead', 'Lead 2', 'Meter', 'Run'])
    expect(duplicateStage('x', 'y')(twice).stages[2]!.name).toBe('Lead 3')
  })
  test('channels', () => {
    const third = { ...document.channels[0]!, id: 'c3' }
    expect(addChannel(third)(document).channels.map(({ id }) => id)).toEqual(['c1', 'c2', 'c3'])
    expect(removeChannel('c1')(document).channels.map(({ id }) => id)).toEqual(['c2'])
    expect(changeChannel('c2', { powerW: 1 })(document).channels.map((c) => c.powerW)).toEqual([
      100, 1,
    ])
  })
})

describe('answers', () => {
  const chain = chainOfDocument(document, undefined)!
  const channel = document.channels[0]!

  test('power: what the channel asks for, or less while it is reduced', () => {
    const reduced = (on: boolean, powerW: number) => ({
      ...document.transmitter,
      reduced: { on, powerW },
    })
    expect(settingOf(document.transmitter, channel)).toBe(100)
    expect(settingOf(reduced(true, 20), channel)).toBe(20)
    expect(settingOf(reduced(true, 200), channel)).toBe(100)
    expect(settingOf(reduced(false, 20), channel)).toBe(100)
    expect(operatingPoint(reduced(true, 20), channel)).toEqual({
      frequencyHz: 4.146e6,
      powerW: 20,
      mode: 'voice-plain',
    })
  })

  test('the rating of a band, its ends included', () => {
    const banded = { ...document.transmitter, bands: [{ lowHz: 1e6, highHz: 2e6, ratedW: 40 }] }
    expect([1e6, 1.5e6, 2e6, 0.99e6, 2.01e6].map((hz) => ratedOn(banded, hz))).toEqual([
      40, 40, 40, 100, 100,
    ])
  })

  test('a sweep on its way has no answer; one that cannot be had says so', () => {
    const swept: ChainDocument = {
      ...document,
      load: { kind: 'antenna', name: 'Vee', antennaId: 'a', sweepId: 's' } as never,
    }
    expect(chainOfDocument(swept, undefined)).toBeNull()
    expect(answerOf(null, document.transmitter, channel, null)).toBeNull()
    expect(answerOf(null, document.transmitter, channel, new Error('gone'))).toEqual({
      ok: false,
      message: 'gone',
    })
    expect(answerOf(chain, document.transmitter, channel, null)!.ok).toBe(true)
    const wrong = { ...chain, stages: [{ ...chain.stages[0]!, lengthM: -1 }] } as Chain
    expect(answerChannel(wrong, document.transmitter, channel)).toMatchObject({ ok: false })
  })

  test('the top of the scale is what is set, or what an amplifier gives', () => {
    const answer = (outputs: (number | null)[], nets: number[]) =>
      ({
        ok: true,
        solution: {
          stages: outputs.map((outputW) => (outputW === null ? {} : { amplifier: { outputW } })),
          planes: nets.map((netW) => ({ netW })),
        },
      }) as unknown as ChannelAnswer
    expect(topOf(100, null)).toBe(100)
    expect(topOf(100, answer([null, 400], []))).toBe(400)
    expect(topOf(100, answer([null, 40], []))).toBe(100)
    // Thin below four tenths of it.
    expect(zoomOf(100, answer([], [41, 10]))).toBeNull()
    expect(zoomOf(100, answer([], [40, 10]))).toBe(50)
    expect(zoomOf(100, answer([], [12]))).toBe(15)
    expect(zoomOf(100, answer([], [10]))).toBe(10)
    expect(zoomOf(100, answer([], [0.8]))).toBe(1)
    expect(zoomOf(100, answer([], [0]))).toBeNull()
    expect(zoomOf(100, null)).toBeNull()
  })

  test('ranges take the place of a spread, where they are of this chain', () => {
    const answer = answerChannel(chain, document.transmitter, channel)
    if (!answer.ok) throw new Error(answer.message)
    const range = { low: 1, high: 2 }
    const ranges = {
      antennaW: range,
      transmitterNetW: { low: 3, high: 4 },
      planes: answer.solution.planes.map(() => ({ netW: range })),
      stages: [],
    }
    const having = withRanges(answer, ranges as never)
    if (!having?.ok) throw new Error('no answer')
    expect(having.spread).toMatchObject({
      phaseUnknown: false,
      antennaW: range,
      transmitterNetW: { low: 3, high: 4 },
    })
    const volt = answer.solution.planes[1]!.voltageRms
    expect(having.spread!.planes[1]).toMatchObject({
      netW: range,
      voltageRms: { low: volt, high: volt },
    })
    expect(withRanges(answer, undefined)).toBe(answer)
    expect(withRanges(answer, { ...ranges, planes: [] } as never)).toBe(answer)
    expect(withRanges(null, ranges as never)).toBeNull()
  })
})

describe('a band to draw', () => {
  const anywhere = { kind: 'fixed', rOhm: 50, xOhm: 0 } as const
  const swept = {
    kind: 'sweep',
    frequencyHz: Float64Array.of(7e6, 7.1e6, 7.3e6),
    re: new Float64Array(3),
    im: new Float64Array(3),
  } as never
  test('seven percent to either side, or all that is known', () => {
    expect(reachOf(10e6, 'near' as never, anywhere)).toEqual({ lowHz: 9.3e6, highHz: 10.7e6 })
    const all = reachOf(9e6, 'all', anywhere)
    expect(all.lowHz).toBeCloseTo(3e6, 0)
    expect(all.highHz).toBeCloseTo(27e6, 0)
    expect(reachOf(7.1e6, 'all', swept)).toEqual({ lowHz: 7e6, highHz: 7.3e6 })
    expect(reachOf(7.1e6, 'near' as never, swept)).toEqual({ lowHz: 7e6, highHz: 7.3e6 })
    // Outside of what is known, all that is.
    expect(reachOf(20e6, 'near' as never, swept)).toEqual({ lowHz: 7e6, highHz: 7.3e6 })
  })
})

describe('a sweep carried to the feed point', () => {
  const sweep = (re: number[], im: number[]) =>
    ({
      frequencyHz: Float64Array.from(re, (_, i) => (i + 7) * 1e6),
      re: Float64Array.from(re),
      im: Float64Array.from(im),
    }) as never
  const pad = { kind: 'pad', lossDb: 3.0103 } as const
  test('through a pad of 3 dB, twice as much reflection', () => {
    const carried = carryToFeedPoint(sweep([0.1, 0.2], [0.05, 0]), [pad])
    if (!carried.possible) throw new Error(carried.message)
    expect(carried.sweep.re[0]).toBeCloseTo(0.2, 4)
    expect(carried.sweep.im[0]).toBeCloseTo(0.1, 4)
    expect(carried.sweep.re[1]).toBeCloseTo(0.4, 4)
  })
  test('where only the size is known, too', () => {
    const carried = carryToFeedPoint(sweep([0.25], [0]), [pad], false)
    if (!carried.possible) throw new Error(carried.message)
    expect(Math.hypot(carried.sweep.re[0]!, carried.sweep.im[0]!)).toBeCloseTo(0.5, 4)
  })
  test('more than all cannot come back: it is said where, and what may be wrong', () => {
    const carried = carryToFeedPoint(sweep([0.1, 0.8, 0.9], [0, 0, 0]), [pad])
    if (carried.possible) throw new Error('possible')
    expect(plain(carried.message)).toMatch(
      /^At 2 of 3 points, the first at 8\.000 MHz, the antenna would have to return/,
    )
    const none = carryToFeedPoint(sweep([1.2], [0]), [])
    if (none.possible) throw new Error('possible')
    expect(plain(none.message)).toMatch(/1 of 1 points.*Check the analyser’s calibration/)
  })
})

describe('attempts at drills, kept in this browser', () => {
  let kept: Record<string, string>
  beforeEach(() => {
    kept = {}
    vi.stubGlobal('localStorage', {
      getItem: (key: string) => kept[key] ?? null,
      setItem: (key: string, value: string) => void (kept[key] = value),
    })
  })
  afterEach(() => void vi.unstubAllGlobals())
  const attempt = (id: string, more: Partial<Attempt> = {}): Attempt =>
    ({
      id,
      at: '2026-05-01T08:00:00.000Z',
      by: 'watch',
      family: 'find',
      drill: 'connector',
      level: 1,
      seed: 'gull-417',
      right: true,
      points: 70,
      readings: 4,
      keyDownS: 20,
      ...more,
    }) as Attempt

  test('are read newest first, each once, and no more than 300', () => {
    expect(readAttempts()).toEqual([])
    expect(keepAttempt(attempt('one'))).toBe(true)
    expect(keepAttempt(attempt('two'))).toBe(true)
    expect(keepAttempt(attempt('one', { points: 90 }))).toBe(true)
    expect(readAttempts().map(({ id, points }) => [id, points])).toEqual([
      ['one', 90],
      ['two', 70],
    ])
    for (let i = 0; i < 310; i++) keepAttempt(attempt(`n${i}`))
    expect(readAttempts()).toHaveLength(300)
    expect(readAttempts()[0]!.id).toBe('n309')
  })

  test('what cannot be read is left out; a browser that keeps nothing says so', () => {
    keepAttempt(attempt('good'))
    const key = Object.keys(kept)[0]!
    kept[key] = JSON.stringify([{ id: 'bad' }, ...(JSON.parse(kept[key]!) as object[])])
    expect(readAttempts().map(({ id }) => id)).toEqual(['good'])
    for (const text of ['{', '{"a":1}', 'null']) {
      kept[key] = text
      expect(readAttempts()).toEqual([])
    }
    vi.stubGlobal('localStorage', {
      getItem: () => null,
      setItem: () => {
        throw new Error('full')
      },
    })
    expect(keepAttempt(attempt('lost'))).toBe(false)
  })

  test('progress by kind: tries, right ones, the best', () => {
    const all = progressOf([
      attempt('a', { points: 50 }),
      attempt('b', { points: 80, right: false }),
      attempt('c', { drill: 'wet' as never, points: 10 }),
    ])
    expect(all.get('connector')).toEqual({ tries: 2, right: 1, best: 80 })
    expect(all.get('wet')).toEqual({ tries: 1, right: 1, best: 10 })
  })

  test('a seed can be read out: a bird and a number of three digits', () => {
    for (let i = 0; i < 50; i++) expect(newSeed()).toMatch(/^[a-z]+-[1-9]\d\d$/)
  })
})

describe('run sheets of the station’s own', () => {
  const sheet = { name: 'Own', purpose: '', version: 1, needs: [], steps: [] }
  const gear = [
    { id: 's', kind: 'sheet', document: sheet },
    { id: 'm', kind: 'instrument', document: {} },
  ] as never

  test('stand behind those that ship', () => {
    expect(ownSheets({ gear }).map(({ id, title }) => [id, title])).toEqual([['s', 'Own']])
    expect(sheetsOf({ gear }).map(({ id }) => id)).toEqual([...runSheets.map(({ id }) => id), 's'])
  })

  test('cautions that a copy has lost', () => {
    const [original] = runSheets
    const cautions = original!.steps.filter((step) => 'kind' in step && step.kind === 'caution')
    const copy = { ...sheet, copiedFrom: original!.id } as RunSheetDocument
    expect(lostCautions(copy).map(({ id }) => id)).toEqual(
      expect.arrayContaining(cautions.map((step) => (step as { id: string }).id)),
    )
    expect(lostCautions({ ...copy, steps: original!.steps } as never)).toEqual([])
    expect(lostCautions({ ...copy, copiedFrom: 'gone' })).toEqual([])
  })

  test('a block moves, and not past an end', () => {
    expect(moved([1, 2, 3], 0, 1)).toEqual([2, 1, 3])
    expect(moved([1, 2, 3], 2, -1)).toEqual([1, 3, 2])
    expect(moved([1, 2, 3], 0, -1)).toEqual([1, 2, 3])
    expect(moved([1, 2, 3], 2, 1)).toEqual([1, 2, 3])
  })

  test('what a step changes is read as it is written', () => {
    for (const { id, label } of changes) {
      expect(changeOf(makesOf(id))).toBe(id)
      expect(label).not.toBe('')
    }
    expect(changeOf(undefined)).toBe('nothing')
    expect(changeOf({ load: 'dummy', power: 'down' } as never)).toBe('dummy')
  })
})

describe('runs in words', () => {
  const entry = (more: Partial<RunEntry> = {}): RunEntry => ({
    stepId: 's',
    at: '2026-05-01T08:00:10.000Z',
    outcome: 'done',
    ...more,
  })
  const run = {
    steps: [{ id: 's' }, { id: 't' }],
    next: 0,
    entries: [entry({ forwardW: 1 })],
    outcome: 'running',
  } as unknown as RunBody

  test('a channel as a run sees it', () => {
    expect(runChannelOf(document, document.channels[0]!)).toMatchObject({
      id: 'c1',
      frequencyHz: 4.146e6,
      mode: 'voice-plain',
      powerW: 100,
      around: { ambientC: 40, ratedW: 100 },
    })
  })

  test('what was done says how the station stands', () => {
    const [read, stopped, walked] = doneOf({
      entries: [
        entry({ forwardW: 10, keyedS: 4 }),
        entry({ swr: 9, stop: 'SWR' as never }),
        entry({ outcome: 'skipped' }),
      ],
    })
    expect(read).toEqual({
      stepId: 's',
      outcome: 'done',
      withinLimits: true,
      atS: Date.parse('2026-05-01T08:00:10Z') / 1000,
      keyedS: 4,
    })
    expect(stopped!.withinLimits).toBe(false)
    expect(walked).toMatchObject({ outcome: 'skipped', withinLimits: false })
    expect(walked).not.toHaveProperty('keyedS')
    expect(doneOf({ entries: [entry({ swr: 1.2 })] })[0]!.withinLimits).toBe(true)
  })

  test('it ends at its last step, or where it is ended; a choice leads back', () => {
    expect(withEntry(run, entry()).next).toBe(1)
    expect(withEntry({ ...run, next: 1 }, entry()).outcome).toBe('done')
    expect(withEntry(run, entry(), { end: 'stopped' })).toMatchObject({
      next: 0,
      outcome: 'stopped',
    })
    expect(withEntry({ ...run, next: 1 }, entry(), { backTo: 's' })).toMatchObject({
      next: 0,
      outcome: 'running',
    })
    expect(withEntry(run, entry(), { backTo: 'gone' }).next).toBe(1)
    expect(lastEntry(run, 's')).toBe(run.entries[0])
    expect(lastEntry(run, 't')).toBeUndefined()
  })

  test('what is sent is the run without what the server gives it', () => {
    const sent = { ...run, id: 'r', chainId: 'c', revision: 3, startedAt: 'x', changedAt: 'y' }
    expect(bodyOf(sent as never)).toEqual(run)
  })

  test.each<[Partial<RunEntry>, string]>([
    [{ outcome: 'skipped', forwardW: 3 }, 'skipped'],
    [{ forwardW: 44 }, '44 W'],
    [{ forwardW: 44, reflectedW: 0 }, '44 W, 0 W back'],
    [{ swr: 1.3, keyedS: 4 }, 'SWR 1.30'],
    [{ keyedS: 4.4 }, '4 s'],
    [{ dials: ['3', '40'] }, '3 · 40'],
    [{ words: 'better' }, 'better'],
    [{}, ''],
  ])('%j stands in lists as %s', (more, text) =>
    expect(plain(entryFigure(entry(more), 'W'))).toBe(text),
  )

  test('how a step is run', () => {
    const words = (state: object) => plain(stateWords({ state } as never, 25, 'W'))
    expect(words({})).toBe('25 W set')
    expect(words({ carrier: true, tuner: 'bypass', amplifier: 'bypass' })).toBe(
      '25 W set, steady carrier, tuner in bypass, amplifier in bypass',
    )
    expect(words({ load: 'dummy' })).toBe('25 W set, dummy load')
    expect(words({ load: 'cable', tuner: 'in' })).toMatch(/cable under test, dummy load at its far/)
    expect(plain(stateWords({} as never, 25, 'W'))).toBe('25 W set')
    expect(placeWords.tuner).toBe('in front of the tuner')
    expect(new Set(Object.values(placeWords)).size).toBe(5)
  })

  test('what a chain must have', () => {
    expect(needText(['tuner'])).toBe('a tuner')
    expect(needText(['hand tuner', 'amplifier'])).toBe('a tuner with knobs and an amplifier')
    expect(needText(['automatic tuner', 'cable'])).toBe(
      'a tuner that sets itself and a length of cable',
    )
  })

  const stress = { part: 2, kind: 'heat', unit: 'W/m' }
  test.each<[object, RegExp, RegExp]>([
    [
      { rule: 'SWR', swr: 4, range: { low: 3.5, high: 4.6 }, most: 2 },
      /^SWR 4\.00 \(3\.50 to 4\.60 with this meter\), more than 2\.00/,
      /right one and connected/,
    ],
    [{ rule: 'reflected', share: 0.31, before: 0.04 }, /^31 % .*it was 4 %/, /arced or came loose/],
    [{ rule: 'forward fell', watts: 20, before: 90 }, /fell to 20 W; it was 90 W/, /protection/],
    [{ rule: 'far below', watts: 20, expected: 90 }, /^20 W is less than half.*90 W/, /reduced/],
    [
      { rule: 'far above', watts: 300, expected: 90 },
      /^300 W is far more.*90 W/,
      /Is the power set/,
    ],
    [{ rule: 'part', stress, overDb: 1.26 }, /^Run: heating over its limit by 1\.3 dB/, /Turn the/],
    [{ rule: 'time', seconds: 14.6, most: 10 }, /for 15 s; 10 s are meant/, /Let it cool/],
  ])('%j', (reason, why, advice) => {
    const words = stopWords(reason as StopReason, document, 'W')
    expect(plain(words.why)).toMatch(why)
    expect(words.advice).toMatch(advice)
  })
})
