/** Every kind of stage in words: how it begins, what is written under it, what changed, how its loss comes about. */
import { chainDocumentSchema, type StageDocument } from '@saltline/contract'
import { type Chain, solveChain, type StageState } from '@saltline/core'
import { describe, expect, test } from 'vitest'
import { insertStage, newStage } from '../src/model/edits.ts'
import { kindOf, stageChoices } from '../src/model/stages/index.ts'
import { document } from './fixtures.ts'

const plain = (text: string) => text.replaceAll('\u00a0', ' ')
const hz = 8.294e6
const begun = (choice: string): StageDocument => newStage(choice, document)
/** The stage between the lead and the meter of the fixture, solved with 100 W. */
const solved = (stage: StageDocument) => {
  const { stages, transmitter, load } = insertStage(1, stage)(document)
  return solveChain({ stages, transmitter, load } as Chain, {
    // A duplexer passes the channel it was made for.
    frequencyHz: stage.kind === 'duplexer' ? document.channels[0]!.frequencyHz : hz,
    powerW: 100,
    mode: 'data',
  })
}
const stepsOf = (stage: StageDocument) => kindOf(stage).steps(stage, solved(stage), 1)
const results = (stage: StageDocument) =>
  stepsOf(stage).steps.map(({ what, result }) => [plain(what), plain(result)])
const figure = (stage: StageDocument, state?: Partial<StageState>) =>
  plain(kindOf(stage).figure(stage, hz, 'm', state as StageState | undefined))
const changes = <S extends StageDocument>(stage: S, after: Partial<S>) =>
  kindOf(stage)
    .changes(stage, { ...stage, ...after })
    .map(plain)

describe('what can be put into a chain', () => {
  test('is listed in the order of the menus, each once', () => {
    expect(stageChoices.map(({ choice }) => choice)).toEqual([
      'line',
      'connector',
      'meter',
      'switch',
      'arrester',
      'filter',
      'choke',
      'attenuator',
      'tuner',
      'transformer',
      'amplifier',
      'series',
      'shunt',
      'stub',
      'isolator',
      'duplexer',
    ])
  })

  test.each(stageChoices.map(({ choice }) => choice))(
    '%s: begins with figures that are kept and solved',
    (choice) => {
      const stage = begun(choice)
      const whole = chainDocumentSchema.parse(insertStage(1, stage)(document))
      expect(whole.stages[1]).toEqual(stage)
      const { antennaW } = solved(stage)
      expect(antennaW).toBeGreaterThan(0)
      const { label } = stageChoices.find((one) => one.choice === choice)!
      // The fixture has a meter already.
      expect(stage.name).toBe(choice === 'meter' ? 'Meter 2' : label)
      for (const { what, sum, result } of stepsOf(stage).steps) {
        expect(what).not.toBe('')
        expect(sum).not.toMatch(/undefined|NaN/)
        expect(result).not.toMatch(/undefined|NaN/)
      }
      expect(kindOf(stage).changes(stage, structuredClone(stage))).toEqual([])
    },
  )

  test.each(stageChoices)('$choice has a hint of its own', ({ hint, label }) => {
    expect(hint.length).toBeGreaterThan(5)
    expect(stageChoices.filter((other) => other.hint === hint)).toHaveLength(1)
    expect(stageChoices.filter((other) => other.label === label)).toHaveLength(1)
  })

  test('only a cable has no icon: it is drawn', () => {
    for (const { choice } of stageChoices) {
      const stage = begun(choice)
      if (choice === 'line') expect(kindOf(stage).icon(stage)).toBeNull()
      else expect(kindOf(stage).icon(stage)).toMatch(/^M[\d.]/)
    }
    const icons = stageChoices.map(({ choice }) => kindOf(begun(choice)).icon(begun(choice)))
    expect(new Set(icons).size).toBe(stageChoices.length)
  })

  test.each([
    ['line', 'Cable'],
    ['connector', 'Connector'],
    ['meter', 'Meter'],
    ['attenuator', 'Pad'],
    ['tuner', 'Tuner'],
    ['transformer', 'Transformer'],
    ['amplifier', 'Amplifier'],
    ['series', 'Series part'],
    ['shunt', 'Shunt part'],
    ['stub', 'Stub'],
  ])('%s is called %s', (choice, title) => {
    const stage = begun(choice)
    expect(kindOf(stage).title(stage)).toBe(title)
  })
})

describe('a cable', () => {
  const line = document.stages[2] as Extract<StageDocument, { kind: 'line' }>

  test('has its length under it, in either unit', () => {
    expect(figure(line)).toBe('40 m')
    expect(plain(kindOf(line).figure(line, hz, 'ft', undefined))).toBe('131 ft')
  })

  test('what changed is length, cable, its figures, or its age', () => {
    expect(changes(line, { lengthM: 12 })).toEqual(['length 40 m → 12 m'])
    expect(changes(line, { cable: { ...line.cable, name: 'Other' } })).toEqual([
      '5 mm solid PE → Other',
    ])
    expect(changes(line, { cable: { ...line.cable, k1DbPer100m: 2 } })).toEqual(['cable figures'])
    expect(changes(line, { ageing: { factor: 1.2, reason: 'water' } })).toEqual(['loss above new'])
  })

  test('its working: attenuation from two constants, by hand', () => {
    const steps = Object.fromEntries(results({ ...line, id: 'x' }))
    // 1.45·√8.294 + 0.006·8.294 = 4.176 + 0.050
    expect(steps['Attenuation at 8.294 MHz']).toBe('4.226 dB/100 m')
    expect(steps['Matched loss of this length']).toBe('1.7 dB')
  })

  test('says whose figures they are', () => {
    expect(stepsOf(line).remarks[0]).toBe('5 mm solid PE: values as entered.')
    expect(stepsOf(begun('line')).remarks[0]).toMatch(/values typical of its class/)
  })
})

describe('a part with a loss', () => {
  const pad = begun('attenuator') as Extract<StageDocument, { kind: 'pad' }>

  test('shows it, worked out for the frequency', () => {
    expect(figure(pad)).toBe('3.0 dB')
    expect(figure({ ...pad, lossDb: 0.2, atHz: 2.0735e6 })).toBe('0.40 dB')
  })

  test('its working says where the loss comes from', () => {
    const sum = (stage: StageDocument) => plain(stepsOf(stage).steps[0]!.sum)
    expect(sum(pad)).toBe('as entered, the same at every frequency')
    expect(sum({ ...pad, lossDb: 0.2, atHz: 2.0735e6 })).toBe('0.20 dB · √(f / 2.0735 MHz)')
    expect(sum(begun('arrester'))).toMatch(/^from its points/)
    expect(stepsOf(pad).steps[0]!.result).toMatch(/^3\.0/)
  })

  test('what changed is its class, or its loss', () => {
    expect(changes(pad, { lossDb: 6 })).toEqual(['loss 3.0 dB → 6.0 dB'])
    expect(changes(pad, { gearId: 'n', lossDb: 6 })).toEqual(['another class of part'])
    const connector = begun('connector') as typeof pad
    // Taken out of the catalogue it is what it was.
    const { gearId: _, ...own } = connector
    expect(kindOf(connector).changes(connector, own)).toEqual([])
  })
})

describe('a tuner', () => {
  const tuner = begun('tuner') as Extract<StageDocument, { method: 'network' }>

  test('shows its loss, or that there is no match', () => {
    expect(figure(tuner)).toBe('tuner')
    expect(figure(tuner, { lossDb: 0.4 })).toBe('0.40 dB')
    const no = { tuner: { matched: false } } as Partial<StageState>
    expect(figure(tuner, { lossDb: 0.4, ...no })).toBe('✕ no match')
  })

  test('what changed is how it is known, and its marks', () => {
    const given = { method: 'given', lossDb: 0.3, residualSwr: 1.1 } as unknown as typeof tuner
    expect(changes(tuner, given)).toEqual(['known in another way'])
    expect(changes(tuner, { dials: { c1: ['3', '40', '5'] } })).toEqual(['dial marks'])
    expect(changes(tuner, { coilQ: 80 })).toEqual(['coil Q 200 → 80'])
  })

  test('its working: both SWRs, then coil and capacitors with what each takes', () => {
    const rows = results(tuner)
    expect(rows[0]).toEqual(['SWR beyond it, and in front of it', '1.00'])
    expect(
      rows
        .slice(1)
        .map(([what = '']) => what.replace(/, .*/, ''))
        .sort(),
    ).toEqual(['Capacitor in line', 'Capacitor in line', 'Coil across'])
    const watts = rows.slice(1).map(([, result]) => result)
    for (const each of watts) expect(each).toMatch(/W$/)
    expect(stepsOf(tuner).remarks[0]).toMatch(/^Coil Q 200, capacitor Q 1000\./)
    expect(stepsOf(tuner).remarks[1]).toMatch(/least loss inside the ranges/)
    const at = { ...tuner, coilQAtHz: 7e6 }
    expect(plain(stepsOf(at).remarks[0]!)).toMatch(/^Coil Q 200 at 7.000 MHz, rising as √f/)
  })

  test('known by its loss alone, it says that this is crude', () => {
    const given: StageDocument = {
      id: 'x',
      name: 'Tuner',
      kind: 'tuner',
      method: 'given',
      lossDb: 0.3,
      residualSwr: 1.1,
      reachSwr: 10,
    }
    expect(results(given)).toEqual([
      ['SWR beyond it, and in front of it', '1.10'],
      ['Its loss', '0.30 dB'],
    ])
    expect(stepsOf(given).remarks[0]).toMatch(/That is crude/)
  })

  test('with relays it says how a position is chosen', () => {
    const relays: StageDocument = {
      id: 'x',
      name: 'Tuner',
      kind: 'tuner',
      method: 'stepped',
      coilBits: 7,
      coilStepH: 0.08e-6,
      capacitorBits: 7,
      capacitorStepF: 10e-12,
      coilQ: 150,
      capacitorQ: 800,
      contentSwr: 1.5,
    }
    expect(stepsOf(relays).remarks[1]).toMatch(/^All relay positions are tried/)
  })
})

describe('a transformer', () => {
  const one = begun('transformer') as Extract<StageDocument, { kind: 'transformer' }>

  test.each([
    [4, '1:4'],
    [9, '1:9'],
    [1, '1:1'],
    [0.25, '4:1'],
    [2.25, '1:2.25'],
  ])('a ratio of %f is written %s', (ratio, text) => expect(figure({ ...one, ratio })).toBe(text))

  test('what changed is ratio, loss, or what is not ideal', () => {
    expect(changes(one, { ratio: 9 })).toEqual(['impedance ratio 4 → 9'])
    expect(changes(one, { lossDb: 0.5 })).toEqual(['loss 0.20 dB → 0.50 dB'])
    expect(changes(one, { leakageOhm: 30 })).toEqual(['leakage reactance not known → 30 Ω'])
    expect(changes(one, { magnetisingOhm: 3 })).toEqual(['magnetising reactance not known → 3 Ω'])
    expect(changes(one, { coreOhm: 5000 })).toEqual(['core loss resistance not known → 5000 Ω'])
    expect(changes(one, { atHz: 5e6 })).toHaveLength(1)
  })

  test('its working: voltages go by the root of the ratio', () => {
    const [voltages, loss, ...rest] = results(one)
    const [before, after] = voltages![1]!.split(', ').map((text) => Number(text.split(' ')[0]))
    // 50 Ω behind it is 12.5 Ω in front: ρ = −0.6 behind its loss, a = 10^(−0.2/10) times as much in front of it.
    const a = 10 ** (-0.2 / 10)
    expect(after! / before!).toBeCloseTo((2 * 0.4 * Math.sqrt(a)) / (1 - 0.6 * a), 2)
    expect(loss).toEqual(['Its insertion loss', '0.20 dB'])
    expect(rest).toEqual([])
    expect(stepsOf(one).remarks).toHaveLength(2)
  })

  test('its reactances are those at this frequency', () => {
    const real = { ...one, atHz: hz / 2, leakageOhm: 3, magnetisingOhm: 400, coreOhm: 2000 }
    const rows = Object.fromEntries(results(real))
    expect(rows['Leakage reactance here, in series']).toBe('6.0 Ω')
    expect(rows['Magnetising reactance here, in parallel']).toBe('800.0 Ω')
    expect(rows['Core loss']).toMatch(/W$/)
    expect(stepsOf(real).remarks).toHaveLength(1)
  })
})

describe('an amplifier', () => {
  const amplifier = begun('amplifier') as Extract<StageDocument, { kind: 'amplifier' }>

  test('shows its gain, or what cannot stay', () => {
    expect(figure(amplifier)).toBe('12.0 dB')
    expect(figure(amplifier, { lossDb: -9.6 })).toBe('+ 9.6 dB')
    const state = (amplifier: object) => ({ lossDb: -9.6, amplifier }) as Partial<StageState>
    expect(figure(amplifier, state({ trips: { by: 'SWR' } }))).toBe('✕ trips')
    expect(figure(amplifier, state({ overdriven: true }))).toBe('▲ overdriven')
  })

  test('what changed is output, drive, gain, marks', () => {
    expect(changes(amplifier, { fullW: 800 })).toEqual(['full output 500 W → 800 W'])
    expect(changes(amplifier, { driveW: 50 })).toEqual(['drive 40 W → 50 W'])
    expect(changes(amplifier, { gainDb: 13 })).toEqual(['gain 12.0 dB → 13.0 dB'])
    expect(changes(amplifier, { dials: { c1: ['2', '7'] } })).toEqual(['dial marks'])
  })

  test('its working: drive, output, and the most drive of this mode', () => {
    const rows = Object.fromEntries(results(amplifier))
    expect(rows['What the exciter sees through the stages between']).toBe('SWR 1.00')
    // 100 W less 10 m of cable, 0.42 dB.
    expect(Number(rows['Drive, net']!.split(' ')[0])).toBeCloseTo(100 * 10 ** -0.0423, 0)
    expect(rows['Its own foldback']).toBe('100 %')
    expect(rows['Most drive in this mode']).toMatch(/W$/)
    const most = stepsOf(amplifier).steps.at(-1)!
    // The ceiling on data.
    expect(plain(most.sum)).toBe('for 300 W PEP')
  })
})

describe('coils, capacitors and resistors', () => {
  test('show their impedance, and what became of it', () => {
    const series = begun('series') as Extract<StageDocument, { kind: 'series' }>
    expect(figure({ ...series, rOhm: 2, xOhm: -30 })).toMatch(/^2.*30.*Ω$/)
    expect(changes(series, { xOhm: 40 })).toHaveLength(1)
    expect(changes(series, { rOhm: 4 })).toHaveLength(1)
  })

  test('in line it is the current that heats, across it the voltage', () => {
    const series = { ...begun('series'), rOhm: 5 } as StageDocument
    const shunt = { ...begun('shunt'), rOhm: 500 } as StageDocument
    const [current, heat] = results(series)
    expect(current![0]).toBe('Current through it, RMS')
    const amperes = Number(current![1]!.split(' ')[0])
    expect(Number(heat![1]!.split(' ')[0])).toBeCloseTo(amperes ** 2 * 5, 0)
    const [voltage, warmth] = results(shunt)
    expect(voltage![0]).toBe('Voltage across it, RMS')
    const volts = Number(voltage![1]!.split(' ')[0])
    expect(Number(warmth![1]!.split(' ')[0])).toBeCloseTo(volts ** 2 / 500, 0)
  })
})

describe('a stub', () => {
  const stub = begun('stub') as Extract<StageDocument, { kind: 'stub' }>

  test('shows length and end', () => {
    expect(figure(stub)).toBe('1 m, open')
    expect(figure({ ...stub, end: 'short' })).toBe('1 m, short')
  })

  test('what changed is length, end, cable', () => {
    expect(changes(stub, { lengthM: 2 })).toEqual(['length 1 m → 2 m'])
    expect(changes(stub, { end: 'short' })).toEqual(['open → short'])
    expect(changes(stub, { cable: { ...stub.cable, z0Ohm: 75 } })).toEqual(['another cable'])
  })

  test('a short open one has its highest voltage at its far end, hardly higher than on the line', () => {
    const [impedance, voltage, heat] = results(stub)
    expect(impedance![1]).toMatch(/Ω$/)
    const [onLine, rise] = stepsOf(stub).steps[1]!.sum.split(' · ')
    // cos βℓ of a metre at 8.294 MHz and 0.66: 0.2633 rad, and one over that.
    expect(Number(rise)).toBeCloseTo(1 / Math.cos(0.2633), 2)
    expect(parseFloat(voltage![1]!)).toBeCloseTo(parseFloat(onLine!) * Number(rise), 0)
    expect(heat![0]).toBe('Its heat')
    expect(stepsOf(stub).remarks[0]).toMatch(/open.*out of reach/)
    expect(stepsOf({ ...stub, end: 'short' }).remarks[0]).toMatch(/shorted/)
    expect(stepsOf(stub).steps[0]!.sum).toBe('Zc / tanh γℓ')
    expect(stepsOf({ ...stub, end: 'short' }).steps[0]!.sum).toBe('Zc · tanh γℓ')
  })
})

describe('a measured part', () => {
  const measured = {
    id: 'x',
    name: 'Filter',
    kind: 'measured',
    frequencyHz: [1e6, 30e6],
    s: [
      [0, 0, 0.9, 0, 0.9, 0, 0, 0],
      [0, 0, 0.9, 0, 0.9, 0, 0, 0],
    ],
  } as unknown as Extract<StageDocument, { kind: 'measured' }>

  test('is called so, and says what it was measured on', () => {
    expect(kindOf(measured).title(measured)).toBe('Measured part')
    expect(figure(measured)).toBe('measured')
    expect(kindOf(measured).icon(measured)).toMatch(/^M/)
    expect(kindOf(measured).choices).toEqual([])
    const [step] = kindOf(measured).steps(measured, solved(begun('line')), 1).steps
    expect(plain(step!.sum)).toBe('between 2 points from 1.000 MHz to 30.000 MHz')
  })

  test('what changed is what was measured, or which way round it is', () => {
    expect(changes(measured, { s: [] as never })).toEqual(['other measured figures'])
    expect(changes(measured, { frequencyHz: [2e6, 30e6] })).toEqual(['other measured figures'])
    expect(changes(measured, { turned: true })).toEqual(['turned round'])
    expect(changes({ ...measured, turned: true }, { turned: undefined as never })).toEqual([
      'turned round',
    ])
    expect(changes(measured, { turned: false })).toEqual([])
  })
})

describe('a duplexer', () => {
  const stage = begun('duplexer') as Extract<StageDocument, { kind: 'duplexer' }>
  const at = (frequencyHz: number) =>
    plain(kindOf(stage).figure(stage, frequencyHz, 'm', undefined))

  test('shows the loss of its branch, and that it blocks what is in neither', () => {
    expect(at(document.channels[0]!.frequencyHz)).toBe('1.2 dB')
    expect(at(14e6)).toBe('✕ blocks')
  })

  test('passes either band with its own loss, and refuses bands that cannot be', () => {
    const own = {
      ...stage,
      transmitLowHz: 160e6,
      transmitHighHz: 161e6,
      receiveLowHz: 155e6,
      receiveHighHz: 156e6,
      lossDb: 1.5,
      receiveLossDb: 0.9,
    }
    const shown = (hz: number) => plain(kindOf(own).figure(own, hz, 'm', undefined))
    expect([160.5e6, 155.5e6, 158e6].map(shown)).toEqual(['1.5 dB', '0.90 dB', '✕ blocks'])
    const refused = (more: object) => kindOf(own).refuse!({ ...own, ...more })
    expect(refused({})).toBeNull()
    // A band of one frequency is one.
    expect(refused({ transmitHighHz: 160e6, receiveHighHz: 155e6 })).toBeNull()
    expect(refused({ transmitHighHz: 159.9e6 })).toMatch(/end before it begins/)
    expect(refused({ receiveHighHz: 154.9e6 })).toMatch(/end before it begins/)
    expect(refused({ receiveHighHz: 160e6 })).toMatch(/overlap/)
    expect(refused({ receiveLowHz: 161e6, receiveHighHz: 162e6 })).toMatch(/overlap/)
    expect(refused({ receiveLowHz: 161.1e6, receiveHighHz: 162e6 })).toBeNull()
  })

  test.each([
    [446e6, 7.6e6],
    [145e6, 4.6e6],
    [30e6, 1e6],
  ])('begins about a channel at %d Hz, its other branch %d Hz below', (hz, spacing) => {
    const made = stageChoices.find(({ choice }) => choice === 'duplexer')!.make(hz)
    const { transmitLowHz, transmitHighHz, receiveLowHz, receiveHighHz } = made as typeof stage
    expect((transmitLowHz + transmitHighHz) / 2).toBeCloseTo(hz, 3)
    expect((receiveLowHz + receiveHighHz) / 2).toBeCloseTo(hz - spacing, 3)
    expect(receiveHighHz).toBeLessThan(transmitLowHz)
    expect(transmitHighHz - transmitLowHz).toBeCloseTo(spacing / 10, 3)
  })

  test('says the spacing of its branches', () => {
    const [loss, spacing] = results(stage)
    expect(loss).toEqual(['Loss of the transmitter’s branch at 4.146 MHz', '1.2 dB'])
    expect(spacing).toEqual(['Spacing of the branches', '138.2 kHz'])
  })

  test('says what of the transmitter reaches the receiver', () => {
    const [, , leak] = results(stage)
    // 100 W less the lead before it, less 80 dB.
    expect(leak![1]).toMatch(/^−3\d\.\d dBm$/)
    expect(kindOf(stage).refuse!({ ...stage, receiveHighHz: stage.transmitLowHz })).toMatch(
      /overlap/,
    )
    expect(kindOf(stage).refuse!(stage)).toBeNull()
  })
})

describe('an isolator', () => {
  test('says what ends in its load, and what still comes back', () => {
    const stage = begun('isolator')
    const [, load, back] = results(stage)
    expect(load![0]).toContain('its load')
    expect(parseFloat(back![1]!)).toBeLessThan(parseFloat(load![1]!) * 1000)
    expect(changes(stage, { isolationDb: 30 } as never)).toEqual(['isolation 25.0 dB → 30.0 dB'])
  })
})
