import type { ChannelDocument } from '@saltline/contract'
import { describe, expect, test } from 'vitest'
import type { Cell } from '../src/compute/tasks/compare.ts'
import { beatenBy, type Contender, verdictText } from '../src/lenses/compare/verdict.ts'

const channels = [7e6, 14e6].map((frequencyHz, i): ChannelDocument => ({
  id: `c${i}`,
  frequencyHz,
  mode: 'voice-plain',
  powerW: 100,
}))
const cell = (db: number): Cell => ({
  antennaW: 50 * 10 ** (db / 10),
  range: null,
  db,
  nearest: null,
  difference: null,
})
const contender = (name: string, price: number | null, ...db: number[]): Contender => ({
  name,
  row: Object.fromEntries(db.map((each, i) => [`c${i}`, cell(each)])),
  expense: { price, unpriced: [], weightKg: null, bendMm: null },
})
const plain = (...contenders: Contender[]) =>
  verdictText(contenders, channels, 'EUR').replaceAll('\u00a0', ' ')

describe('the verdict', () => {
  test.each<[string, Contender[], string]>([
    [
      'under a decibel nothing is bought',
      [contender('Thick', 100, 0.4, 0.2)],
      'Spend nothing: the best of these, Thick, gains 0.40 dB on 7.000 MHz, which is not heard.',
    ],
    [
      'nothing gained',
      [contender('Thin', 10, -1, -2)],
      'Spend nothing: none of these brings more to the antenna.',
    ],
    [
      'what is heard has its price',
      [contender('Thick', 145, 1.4, 0.2)],
      'Thick: +1.4 dB on 7.000 MHz for 145 EUR; on the other channels it is not heard.',
    ],
    [
      'of two that nearly do the same the cheaper is named',
      [contender('Dear', 300, 1.9, 1.5), contender('Cheap', 20, 1.5, 1.2)],
      'Cheap: +1.5 dB on 7.000 MHz for 20 EUR; heard on the other channel too.',
    ],
    [
      'an unknown price is said',
      [contender('Thick', null, 3, 0)],
      'Thick: +3.0 dB on 7.000 MHz at a price that is not known; on the other channels it is not heard.',
    ],
  ])('%s', (_, contenders, text) => {
    expect(plain(...contenders)).toBe(text)
  })
})

describe('beaten', () => {
  const now = contender('As it stands', 0, 0, 0)
  test('by what gives as much for less', () => {
    const dear = contender('Dear', 300, 1, 1)
    const cheap = contender('Cheap', 20, 1, 1.2)
    expect(beatenBy(dear, [now, dear, cheap], channels)).toBe('Cheap')
    expect(beatenBy(cheap, [now, dear, cheap], channels)).toBeNull()
  })
  test('by the chain as it stands where money brings less', () => {
    const worse = contender('Worse', 10, -1, -1)
    expect(beatenBy(worse, [now, worse], channels)).toBe('As it stands')
  })
  test('not where a price is not known, nor where one channel is better', () => {
    const unknown = contender('Unknown', null, 1, 1)
    expect(beatenBy(unknown, [now, contender('B', 0, 2, 2), unknown], channels)).toBeNull()
    const mixed = contender('Mixed', 10, 2, -1)
    expect(beatenBy(mixed, [now, mixed], channels)).toBeNull()
  })
})
