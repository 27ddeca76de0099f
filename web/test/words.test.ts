/** What the interface says of a reading, a fault, a drill, a danger: each word where it belongs. */
import {
  type ChainDocument,
  clockText,
  dayText,
  placesOf,
  planeOfReading,
  type Station,
} from '@saltline/contract'
import {
  type Cause,
  cableClasses,
  type Compared,
  findDrill,
  findings,
  levels,
  practiceMeters,
  type Violation,
} from '@saltline/core'
import { describe, expect, test } from 'vitest'
import { behaviourText } from '../src/model/behaviourText.ts'
import { cableChoices, factsOf } from '../src/model/cableFacts.ts'
import { causeAdvice, causeTitle } from '../src/model/causeWords.ts'
import { comparedWords } from '../src/model/comparedWords.ts'
import { dialNames, dialText } from '../src/model/dials.ts'
import {
  answerText,
  findingNames,
  levelNames,
  partNames,
  siteText,
  troubleNames,
} from '../src/model/drillWords.ts'
import { ownCables } from '../src/model/ownCables.ts'
import { instrumentFacts, meterChoices, metersOf, onText } from '../src/model/places.ts'
import { readingWords } from '../src/model/readingWords.ts'
import { arrow, same } from '../src/model/same.ts'
import { readSelection, writeSelection } from '../src/model/selection.ts'
import { downText, factsOf as troubles, heardWords } from '../src/model/sentence.ts'
import { shareText } from '../src/model/share.ts'
import { dangersByStep } from '../src/model/sheetDangers.ts'
import { isTouchstone, isTwoPort, previewOf } from '../src/model/sweepFile.ts'
import { elementName, elementValue } from '../src/model/tunerWords.ts'
import { dangerText, violationWords } from '../src/model/violationWords.ts'
import { levelText, ofSamples, rangeText, wattsText } from '../src/model/wattsText.ts'
import { document } from './fixtures.ts'

const plain = (text: string) => text.replaceAll('\u00a0', ' ')

describe('a reading in words', () => {
  test.each([
    [{ forwardW: 44 }, 'forward 44 W, at the radio'],
    [{ forwardW: 44, reflectedW: 1.5 }, 'forward 44 W, reflected 1.5 W, at the radio'],
    [{ swr: 1.4 }, 'SWR 1.40, at the radio'],
    [{ reflectedW: 0, swr: 1 }, 'reflected 0 W, SWR 1.00, at the radio'],
    [{}, 'at the radio'],
  ])('%j', (reading, text) => expect(plain(readingWords(reading, 'at the radio', 'W'))).toBe(text))
  test('in dBm where that is wanted', () =>
    expect(plain(readingWords({ forwardW: 1 }, 'here', 'dBm'))).toBe('forward 30.0 dBm, here'))
  test('how it stands has words of its own for each case', () => {
    const cases: Compared['is'][] = ['inside', 'more', 'half', 'less']
    expect(Object.keys(comparedWords).sort()).toEqual([...cases].sort())
    expect(comparedWords.inside).toBe('inside the uncertainty')
    expect(comparedWords.more).toMatch(/more than expected.*higher/)
    expect(comparedWords.half).toMatch(/reduced-power mode/)
    expect(comparedWords.less).toMatch(/less than expected.*lower/)
  })
})

describe('a fault in words', () => {
  const names = {
    stages: ['lead', 'arrester', 'run', 'joint', 'tail'],
    channels: ['144 MHz', '150 MHz'],
    instruments: ['first meter'],
    readings: ['the first reading', 'the second reading'],
  }
  const title = (cause: Cause) => plain(causeTitle(cause, names))
  test.each<[Cause, string]>([
    [{ kind: 'transmitter', db: 2, point: 0 }, 'Transmitter up by 2.0 dB on 144 MHz'],
    [{ kind: 'transmitter', db: -12.4, point: null }, 'Transmitter down by 12 dB on every channel'],
    [{ kind: 'loss', from: 1, to: 1, db: 3 }, '3 dB lost in arrester'],
    [{ kind: 'loss', from: 0, to: 2, db: 2.94 }, '2.9 dB lost in lead, arrester or run'],
    [{ kind: 'loss', from: 0, to: 3, db: 1 }, '1.0 dB lost in lead to joint'],
    [{ kind: 'aged', stage: 2, factor: 1.25 }, 'run aged: 1.3 times its loss'],
    [
      { kind: 'antenna', change: { kind: 'moved', share: -0.03 }, point: null },
      'Antenna drifted down by 3 %',
    ],
    [
      { kind: 'antenna', change: { kind: 'moved', share: 0.02 }, point: 1 },
      'Antenna drifted up by 2 % on 150 MHz',
    ],
    [
      { kind: 'antenna', change: { kind: 'broken', reflection: { re: 1, im: 0 } }, point: null },
      'Antenna open or shorted',
    ],
    [
      { kind: 'antenna', change: { kind: 'other', by: { re: 0.1, im: 0 } }, point: null },
      'Antenna changed',
    ],
    [
      { kind: 'meter', instrument: 0, factor: 10, why: 'scale' },
      'first meter on the wrong scale: shows 10.0 times the power',
    ],
    [
      { kind: 'meter', instrument: 0, factor: 0.1, why: 'scale' },
      'first meter on the wrong scale: shows 1/10.0 of the power',
    ],
    [
      { kind: 'meter', instrument: 0, factor: 0.5, why: 'off' },
      'first meter shows 3 dB too little',
    ],
    [
      { kind: 'meter', instrument: 0, factor: 1.2, why: 'off' },
      'first meter shows 0.8 dB too much',
    ],
    [{ kind: 'averaging', instrument: 0 }, 'first meter shows the average, not the peak'],
    [{ kind: 'common mode', rho: 0.2 }, 'Common-mode current disturbs the reflected readings'],
    [{ kind: 'slip', reading: 1 }, 'Misread or mistyped reading: the second reading'],
  ])('%j', (cause, text) => expect(title(cause)).toBe(text))

  test.each<[Cause, RegExp]>([
    [{ kind: 'none' }, /within the uncertainty/],
    [{ kind: 'transmitter', db: 1, point: null }, /^Look at the power setting/],
    [{ kind: 'transmitter', db: -1, point: null }, /reduced-power setting/],
    [{ kind: 'loss', from: 0, to: 0, db: 1 }, /clean and tighten/],
    [{ kind: 'aged', stage: 0, factor: 2 }, /grows with frequency is the cable/],
    [{ kind: 'antenna', change: { kind: 'moved', share: 1 }, point: null }, /dummy load/],
    [{ kind: 'meter', instrument: 0, factor: 2, why: 'scale' }, /second meter/],
    [{ kind: 'averaging', instrument: 0 }, /second meter/],
    [{ kind: 'common mode', rho: 0.1 }, /choke near the antenna/],
    [{ kind: 'slip', reading: 0 }, /Read it again/],
  ])('what to look at first: %j', (cause, advice) => expect(causeAdvice(cause)).toMatch(advice))

  test('a probability is never quite certain', () => {
    expect(plain(shareText(0.995))).toBe('over 99 %')
    expect(plain(shareText(0.99))).toBe('99 %')
    expect(plain(shareText(0.5))).toBe('50 %')
  })
})

describe('drills in words', () => {
  const drill = findDrill('gull-417', 1, 'connector')
  const { station } = drill

  test('every finding, level and trouble has its words', () => {
    expect(Object.keys(findingNames).sort()).toEqual([...findings].sort())
    expect(new Set(Object.values(findingNames)).size).toBe(findings.length)
    for (const level of levels) expect(levelNames[level]).not.toBe('')
    expect(new Set(Object.values(levelNames)).size).toBe(levels.length)
    for (const text of Object.values(troubleNames)) expect(text).toMatch(/\.$/)
    expect(troubleNames['no load']).toMatch(/^Keyed without a load\. Unkey/)
    expect(troubleNames['moved under power']).toMatch(/RF burns/)
  })

  test('the part of a finding is picked among what it can be', () => {
    expect(partNames(drill, 'connector')).toEqual(
      station.stageNames.map((label, value) => ({ value, label })),
    )
    const cables = partNames(drill, 'wet')
    expect(cables.length).toBeGreaterThan(0)
    expect(cables.length).toBeLessThan(station.stageNames.length)
    for (const { value, label } of cables) {
      expect(station.jackets[value]).not.toBeNull()
      expect(label).toBe(station.stageNames[value])
    }
    expect(partNames(drill, 'scale')).toEqual(
      practiceMeters.map(({ name }, value) => ({ value, label: name })),
    )
    expect(partNames(drill, 'misread').map(({ label }) => label)).toEqual([
      'the one at the radio',
      'the one at the antenna',
    ])
    for (const finding of ['none', 'reduced', 'antenna', 'common'] as const)
      expect(partNames(drill, finding)).toEqual([])
  })

  test('an answer is a finding, and its part where it has one', () => {
    expect(answerText(drill, { finding: 'none', part: null })).toBe('nothing is wrong')
    expect(answerText(drill, { finding: 'connector', part: 2 })).toBe(
      `bad connector or part: ${station.stageNames[2]}`,
    )
    expect(answerText(drill, { finding: 'connector', part: null })).toBe('bad connector or part')
  })

  test('where and with what something is read', () => {
    const [point] = station.channels.keys()
    const text = plain(siteText(drill, { point: point!, plane: 0, instrument: 0 }))
    expect(text).toMatch(/^at the radio, [\d.]+ MHz, /)
    expect(text.endsWith(practiceMeters[0]!.name)).toBe(true)
    const other = station.channels.length - 1
    const voiced = [0, other].map((at) =>
      plain(siteText(drill, { point: at, plane: 0, instrument: 0 })).includes(', voice, '),
    )
    expect(voiced.filter(Boolean).length).toBeLessThanOrEqual(1)
  })
})

describe('tuners', () => {
  const element = (place: 'series' | 'shunt', part: 'coil' | 'capacitor', value: number) =>
    ({ place, part, value }) as Parameters<typeof elementName>[0]
  test.each([
    ['series', 'coil', 2.2e-6, 'Coil in line', '2.20 µH'],
    ['shunt', 'coil', 250e-9, 'Coil across', '250 nH'],
    ['series', 'capacitor', 47e-12, 'Capacitor in line', '47.0 pF'],
    ['shunt', 'capacitor', 1.2e-9, 'Capacitor across', '1200 pF'],
  ] as const)('%s %s of %f', (place, part, value, name, text) => {
    expect(elementName(element(place, part, value))).toBe(name)
    const said = plain(elementValue(element(place, part, value)))
    const [number, unit] = said.split(' ')
    const [wanted, wantedUnit] = text.split(' ')
    const scale: Record<string, number> = { pF: 1e-12, nF: 1e-9, nH: 1e-9, µH: 1e-6 }
    expect(Number(number) * scale[unit!]!).toBeCloseTo(Number(wanted) * scale[wantedUnit!]!, 14)
  })

  test('what stands on the knobs depends on the network', () => {
    const tuner = (network: string) =>
      dialNames({ kind: 'tuner', method: 'network', network } as never)
    expect(tuner('T')).toEqual(['Input capacitor', 'Coil', 'Output capacitor'])
    expect(tuner('pi')).toEqual(['Input capacitor', 'Coil', 'Output capacitor'])
    expect(tuner('L-low-pass')).toEqual(['Coil', 'Capacitor'])
    expect(tuner('L-high-pass')).toEqual(['Capacitor', 'Coil'])
    expect(dialNames({ kind: 'tuner', method: 'given' } as never)).toEqual([
      'Dial 1',
      'Dial 2',
      'Dial 3',
    ])
    expect(dialNames({ kind: 'amplifier' } as never)).toEqual(['Tune', 'Load'])
    expect(dialNames({ kind: 'line' } as never)).toEqual([])
    expect(dialText(['3', '', '40'])).toBe('3 · 40')
    expect(dialText()).toBe('')
  })
})

describe('what is known of a cable', () => {
  const foam = cableClasses.find(({ id }) => id === 'foam-10')!
  const own = {
    id: 'own-1',
    kind: 'cable',
    document: {
      name: 'Own drum',
      z0Ohm: 50,
      velocityFactor: 0.8,
      k1DbPer100m: 1,
      k2DbPer100m: 0.01,
      outerMm: 9,
      pricePerM: 2,
    },
  }
  const station = {
    gear: [{ id: 'm', kind: 'instrument', document: {} }, own],
    prices: { perM: { 'foam-10': 3.4 } },
  } as unknown as Pick<Station, 'gear' | 'prices'>

  test('of a class: the class says it, and the station its price', () => {
    expect(factsOf({ gearId: 'foam-10' } as never, station)).toEqual({
      outerMm: foam.outerMm,
      weightKgPer100m: foam.weightKgPer100m,
      minBendMm: foam.minBendMm,
      pricePerM: 3.4,
    })
  })

  test('what it carries itself goes before', () => {
    const cable = {
      gearId: 'foam-10',
      outerMm: 11,
      weightKgPer100m: 12,
      minBendMm: 13,
      pricePerM: 4,
    }
    expect(factsOf(cable as never, station)).toEqual({
      outerMm: 11,
      weightKgPer100m: 12,
      minBendMm: 13,
      pricePerM: 4,
    })
  })

  test('of the station’s own; what nobody has said is null', () => {
    expect(factsOf({ gearId: 'own-1' } as never, station)).toEqual({
      outerMm: 9,
      weightKgPer100m: null,
      minBendMm: null,
      pricePerM: 2,
    })
    expect(factsOf({} as never, station)).toEqual({
      outerMm: null,
      weightKgPer100m: null,
      minBendMm: null,
      pricePerM: null,
    })
  })

  test('to choose from: the station’s own first, then every class', () => {
    expect(ownCables(station).map(({ id }) => id)).toEqual(['own-1'])
    const all = cableChoices(station)
    expect(all.map(({ id }) => id)).toEqual(['own-1', ...cableClasses.map(({ id }) => id)])
    expect(all[0]).toMatchObject({ name: 'Own drum', sheet: null, outerMm: 9 })
    expect(all[0]!.cable.gearId).toBe('own-1')
    const listed = all.find(({ id }) => id === 'foam-10')!
    expect(listed).toMatchObject({ name: foam.name, sheet: foam, pricePerM: 3.4 })
    expect(listed.cable.k1DbPer100m).toBe(foam.k1DbPer100m)
  })
})

describe('places and meters', () => {
  test('every plane from the radio to the antenna', () => {
    expect(placesOf(document).map(({ before, plane, name }) => [before, plane, name])).toEqual([
      ['a', 0, 'at the radio'],
      ['b', 1, 'input of Meter'],
      ['c', 2, 'input of Run'],
      ['load', 3, 'at the Vee'],
    ])
    expect(placesOf({ ...document, stages: [] })).toEqual([
      { before: 'load', plane: 0, name: 'at the radio' },
    ])
    expect(planeOfReading(document, { before: 'c' })).toBe(2)
    expect(planeOfReading(document, { before: 'load' })).toBe(3)
    expect(planeOfReading(document, { before: 'gone' })).toBeNull()
  })

  const meter = { type: 'power meter', kind: 'peak', accuracy: 0.05, name: 'Heron' }
  const gear = (id: string, more: object) => ({
    id,
    kind: 'instrument',
    document: { ...meter, rangesW: [5, 50], ...more },
  })
  const station = (...all: object[]) => ({ gear: all }) as unknown as Station

  test('a dummy load is no meter', () => {
    const all = station(gear('m', {}), gear('d', { type: 'dummy load' }), {
      id: 'c',
      kind: 'cable',
    })
    expect(metersOf(all).map(({ id }) => id)).toEqual(['m'])
    expect(meterChoices(all).map(({ id, name }) => [id, name])).toEqual([['m', 'Heron']])
  })

  test('a station without a meter has usual ones to choose from', () => {
    const [usual, peak, ...others] = meterChoices(station(gear('d', { type: 'dummy load' })))
    expect(others).toEqual([])
    expect(usual!.name).toMatch(/5 % of full scale/)
    expect(usual!.meter.kind).toBe('averaging')
    expect(peak!.meter).toEqual({ ...usual!.meter, kind: 'peak' })
  })

  test('an instrument in one line', () => {
    const facts = (more: object) => instrumentFacts({ ...meter, rangesW: [5], ...more } as never)
    expect(facts({})).toBe('power meter, shows the peak, ± 5 % of full scale')
    expect(facts({ kind: 'averaging', accuracyOf: 'reading', accuracy: 0.035 })).toBe(
      'power meter, shows the average, ± 3.5 % of reading',
    )
    expect(facts({ rangesW: [] })).toBe('power meter, shows the peak, ± 5 % of reading')
    expect(facts({ calibration: { on: '2026-03-04T12:00:00Z' } })).toBe(
      'power meter, shows the peak, ± 5 % of full scale, calibrated 4 Mar 2026',
    )
  })

  test('frequency and mode, day and hour', () => {
    expect(plain(onText({ frequencyHz: 8.294e6, mode: 'FM', farEnd: 'antenna' }))).toBe(
      '8.294 MHz, FM',
    )
    expect(plain(onText({ frequencyHz: 8.294e6, mode: 'FM', farEnd: 'load' }))).toBe(
      '8.294 MHz, FM, into a 50 Ω load',
    )
    expect(dayText('2026-11-05T12:00:00')).toBe('5 Nov 2026')
    expect(clockText('2026-11-05T07:04:00')).toBe('07:04')
  })
})

describe('figures with their range', () => {
  const range = (low: number, high: number) => ({ low, high })
  test.each([
    [range(90, 110), '90 to 110 W'],
    [range(0.5, 2), '0.50 to 2.0 W'],
    [range(99.999, 100.001), '100 W'],
  ])('%j', (given, text) => expect(plain(wattsText(100, 'W', given))).toBe(text))
  test('without one, or without a unit', () => {
    expect(plain(wattsText(100, 'W'))).toBe('100 W')
    expect(rangeText(1.5, range(1.2, 1.9), (value) => value.toFixed(1))).toBe('1.2 to 1.9')
    expect(rangeText(1.5, undefined, (value) => value.toFixed(1))).toBe('1.5')
  })
  test('how many of the samples', () => {
    expect(ofSamples(0)).toBe('none of the samples')
    expect(ofSamples(1)).toBe('all samples')
    expect(plain(ofSamples(0.25))).toBe('25 % of the samples')
  })
  test('down is less, up is more', () => {
    expect(plain(levelText(100, 50))).toBe('−3.0 dB')
    expect(plain(levelText(100, 200))).toBe('+3.0 dB')
    expect(levelText(100, 100)).toMatch(/^−0/)
  })
})

describe('how a drop is heard', () => {
  // An S-unit is 6 dB.
  test.each([
    [0, 'nothing lost'],
    [0.049, 'nothing lost'],
    [0.05, 'not heard'],
    [0.99, 'not heard'],
    [1, 'under half an S‑unit'],
    [2.9, 'under half an S‑unit'],
    [3, 'under one S‑unit'],
    [5.6, 'under one S‑unit'],
    [6, 'about 1 S‑unit'],
    [9, 'about 1.5 S‑units'],
    [12, 'about 2 S‑units'],
  ])('%f dB: %s', (db, text) => expect(heardWords(db)).toBe(text))
  test('up where an amplifier adds', () => {
    expect(plain(downText(3))).toMatch(/^3\.0 dB down, under one/)
    expect(plain(downText(-9.6))).toBe('9.6 dB up')
    expect(plain(downText(-0.001))).toMatch(/down, nothing lost$/)
  })
})

describe('what cannot stay as it is', () => {
  const of = (stage: object) => {
    const stages = document.stages.map((_, k) => (k === 1 ? stage : {}))
    return troubles(document, { stages } as never, 'W').map(({ stage: at, text }) => [
      at,
      plain(text),
    ])
  }
  test('a tuner without a match', () => {
    expect(of({ tuner: { matched: false, swrIn: 3.2, reason: 'its coil is at its end' } })).toEqual(
      [[1, 'Meter cannot match this: its coil is at its end. The nearest it gets is SWR 3.20.']],
    )
    expect(of({ tuner: { matched: false, swrIn: 3.2 } })[0]![1]).toMatch(/no setting does/)
    expect(of({ tuner: { matched: true } })).toEqual([])
  })
  test('too much drive, with what to do', () => {
    const amplifier = { driveW: 80, mostDriveW: 40, cure: { turnDownToW: 50, padDb: 3 } }
    expect(of({ amplifier })[0]![1]).toBe(
      'Too much drive: Meter gets 80 W and wants at most 40 W in this mode. Turn Petrel down to 50 W, or put a pad of at least 3.0 dB at its input.',
    )
    const none = { ...amplifier, cure: { turnDownToW: 50, padDb: null } }
    expect(of({ amplifier: none })[0]![1]).toMatch(/down to 50 W\.$/)
  })
  test('an amplifier that would switch itself off', () => {
    const trips = (by: string, value: number, limit: number) =>
      of({ amplifier: { trips: { by, value, limit } } })[0]![1]
    expect(trips('SWR', 4, 3)).toMatch(/SWR 4\.00 at its output, its limit is 3\.00/)
    expect(trips('reflected power', 60, 40)).toMatch(/reflected power 60 W at.*is 40 W/)
  })
})

describe('what must never happen, in words', () => {
  const chain = {
    ...document,
    stages: [...document.stages, { id: 't', kind: 'tuner', name: 'Tuner' }],
  } as unknown as ChainDocument
  const said = (violation: object) => {
    const { why, cure } = violationWords(violation as Violation, chain, 'W')
    return plain(`${why} ${cure}`)
  }
  const stress = { part: 2, kind: 'heat', unit: 'W', stress: 30, limit: 20 }
  test.each<[object, RegExp]>([
    [
      { rule: 'load', needs: 'antenna', now: 'unknown' },
      /needs the antenna, and nothing says what is connected\. A step before it: connect the antenna/,
    ],
    [
      { rule: 'load', needs: 'dummy', now: 'antenna' },
      /needs the dummy load, and the antenna is connected/,
    ],
    [{ rule: 'load', needs: 'cable', now: 'dummy' }, /needs the cable under test with the dummy/],
    [
      { rule: 'amplifier', needs: 'on', now: 'bypass' },
      /must be on; it is bypass\. A step before it: amplifier on/,
    ],
    [
      { rule: 'amplifier', needs: 'bypass', now: 'unknown' },
      /must be in bypass; nothing says how it stands\. .*amplifier in bypass/,
    ],
    [
      { rule: 'tuner', needs: 'in', now: 'bypass' },
      /must be in circuit; it is bypass\. .*tuner in circuit/,
    ],
    [
      { rule: 'tuner', needs: 'bypass', now: 'in' },
      /must be in bypass; it is in circuit\. .*tuner in bypass/,
    ],
    [{ rule: 'which', of: 'tuner' }, /more than one tuner.*with one tuner/],
    [
      { rule: 'window', watts: 242, mostW: 20 },
      /^242 W would reach the tuner.*ends at 20 W\. Use the power for tuning/,
    ],
    [
      { rule: 'unset', why: 'not tuned', setW: 100, mostW: 10 },
      /not set for this channel: 100 W is more than the 10 W.*Tune on this channel/,
    ],
    [
      { rule: 'unset', why: 'no match', swr: 4.2, setW: 100, mostW: 10 },
      /finds no match on this channel \(SWR 4\.20 at its input\)/,
    ],
    [
      { rule: 'unset', why: 'match not read', setW: 100, mostW: 10 },
      /Nothing was read yet.*Read forward and reflected in front of the tuner/,
    ],
    [
      { rule: 'amplifier while tuning', why: 'not tuned' },
      /not set for this channel, and the amplifier is on\. Amplifier in bypass/,
    ],
    [{ rule: 'rating', stress, setW: 100 }, /^Run: heating over its limit at 100 W\. Less power/],
    [{ rule: 'rest', seconds: 41.2 }, /rest another 42 s\. Rest first/],
    [{ rule: 'no limits', why: 'no chain.' }, /when to stop: no chain\. Give the step an SWR/],
    [
      { rule: 'in steps', setW: 100, mostW: 25 },
      /^100 W at once: without a reading at less, 25 W is the most here\. Read at a quarter/,
    ],
    [
      { rule: 'retrim' },
      /output is not tuned for what it feeds now\. Tune and load it at a quarter/,
    ],
    [{ rule: 'power down' }, /while the power is still up\. A step before it: power down/],
  ])('%j', (violation, words) => expect(said(violation)).toMatch(words))

  test('for the record: the step, and why, in at most 400 characters', () => {
    const violation = { rule: 'retrim' } as Violation
    const danger = { title: 'Full drive', violation, stepId: 'a', of: 'sheet' } as never
    expect(dangerText(danger, chain, 'W')).toBe(
      'Full drive: The amplifier’s output is not tuned for what it feeds now.',
    )
    const long = { ...(danger as object), title: 'x'.repeat(500) } as never
    expect(dangerText(long, chain, 'W')).toHaveLength(400)
  })

  test('stand at the step they were written at, once for all rounds of a loop', () => {
    const retrim = { rule: 'retrim' } as Violation
    const steps = [{ id: 'read' }, { over: 'channels', steps: [{ id: 'full' }] }]
    const at = (stepId: string, of = 'sheet', violation = retrim) => ({ stepId, of, violation })
    const found = dangersByStep(
      { steps } as never,
      [
        at('read'),
        at('full-1'),
        at('full-2'),
        at('full-2', 'chain'),
        at('fuller-1'),
        at('full-x'),
      ] as never,
      chain,
      'W',
    )
    expect(Object.keys(found).sort()).toEqual(['full', 'read'])
    expect(found['read']).toHaveLength(1)
    expect(found['full']!.map(({ leftOut }) => leftOut)).toEqual([false, true])
  })
})

describe('small things', () => {
  test('what is selected is read as it is written', () => {
    for (const selection of [
      { kind: 'transmitter' },
      { kind: 'antenna' },
      { kind: 'channel' },
      { kind: 'stage', id: 'duct' },
      { kind: 'plane', index: 3 },
    ] as const)
      expect(readSelection(writeSelection(selection))).toEqual(selection)
    for (const text of [null, '', 'stage', 'stage:', 'plane:', 'plane:x', 'plane:-1', 'other:1'])
      expect(readSelection(text)).toBeNull()
  })
  test('two values are the same where they are kept the same', () => {
    expect(same({ a: 1, b: undefined }, { a: 1 })).toBe(true)
    expect(same({ a: 1, b: 2 }, { b: 2, a: 1 })).toBe(true)
    expect(same([1, 2], [2, 1])).toBe(false)
    expect(same(undefined, undefined)).toBe(true)
    expect(same(undefined, null)).toBe(false)
    expect(arrow('a', 'b')).toBe('a → b')
  })
  test('how a source meets a mismatch', () =>
    expect(behaviourText).toEqual({ levelled: 'constant forward power', peaked: 'tuned output' }))
  test('a file is taken by its name, a table shown by its first rows', () => {
    expect(isTwoPort('filter.S2P')).toBe(true)
    expect(isTwoPort('filter.s2p.txt')).toBe(false)
    expect(isTouchstone('vee.s1p')).toBe(true)
    expect(isTouchstone('vee.csv')).toBe(false)
    const lines = Array.from({ length: 9 }, (_, i) => i)
    const guess = { any: 1 }
    const table = { headings: ['f', 'SWR'], lines, columns: [lines, lines.map((x) => x * 10)] }
    expect(previewOf(table as never, guess as never)).toEqual({
      headings: ['f', 'SWR'],
      rowCount: 9,
      rows: [
        [0, 0],
        [1, 10],
        [2, 20],
        [3, 30],
        [4, 40],
      ],
      guess,
    })
  })
})
