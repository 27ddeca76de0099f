import { describe, expect, test } from 'vitest'
import { answerChain, ratedPowerAt } from '@saltline/core'
import { chainDocumentSchema } from '@saltline/contract'
import { cableChoices } from '../src/model/cableFacts.ts'
import { matches, sortRows } from '../src/pages/gear/cableRow.ts'
import { firstSum, quickChain, readQuickSum, writeQuickSum } from '../src/pages/quick/quickSum.ts'

const rows = cableChoices({
  prices: { perM: {} },
  gear: [
    {
      id: 'own',
      kind: 'cable',
      document: { name: 'Drum', z0Ohm: 50, velocityFactor: 0.66, k1DbPer100m: 1, k2DbPer100m: 0 },
    },
  ],
})

describe('the cable table', () => {
  test.each(['rg213', 'RG-213', '10 mm solid', 'double ptfe', '75 Ω foam'])(
    '“%s” finds something',
    (query) => {
      expect(rows.filter((row) => matches(row, query)).length).toBeGreaterThan(0)
    },
  )
  test('every word must be found', () => {
    expect(rows.filter((row) => matches(row, 'rg213 foam'))).toEqual([])
  })
  test('sorts both ways, and what is not known comes last both times', () => {
    for (const falling of [false, true]) {
      const sorted = sortRows(rows, 'weight', falling, 1e7)
      expect(sorted.at(-1)!.id).toBe('own')
      const known = sorted.slice(0, -1).map((row) => row.sheet!.weightKgPer100m)
      expect(known).toEqual([...known].sort((a, b) => (falling ? b - a : a - b)))
    }
  })
  test('rated power falls with frequency and meets the sheet at its points', () => {
    const { sheet } = rows.find(({ id }) => id === 'pe-10')!
    const [mhz, watts] = sheet!.ratedPowerW[2]!
    expect(ratedPowerAt(sheet!, mhz * 1e6)).toBeCloseTo(watts, 6)
    expect(ratedPowerAt(sheet!, 20e6)).toBeLessThan(ratedPowerAt(sheet!, 10e6))
  })
})

describe('a quick sum', () => {
  test('survives its address', () => {
    const sum = { ...firstSum, powerW: 50, frequencyHz: 156.45e6, readAt: 'radio' as const }
    expect(readQuickSum(new URLSearchParams(writeQuickSum(sum)))).toEqual({ sum, unread: [] })
  })
  test('nonsense in the address falls back to the first sum, and is named', () => {
    const read = readQuickSum(new URLSearchParams('p=-3&cable=rope&l=x&swr=0.2&f=1e99'))
    expect(read.sum).toEqual(firstSum)
    expect(read.unread.map((text) => text.split('=')[0])).toEqual(['cable', 'p', 'l', 'f', 'swr'])
  })
  test('an address takes figures as the fields do', () => {
    const { sum, unread } = readQuickSum(new URLSearchParams('p=1.5k&l=40ft&f=7100 kHz&swr=2:1'))
    expect(unread).toEqual([])
    expect(sum).toMatchObject({ powerW: 1500, frequencyHz: 7.1e6, swr: 2 })
    expect(sum.lengthM).toBeCloseTo(12.192, 12)
  })
  test('is a valid chain, and read at the radio gives back what was read', () => {
    const sum = { ...firstSum, readAt: 'radio' as const, frequencyHz: 145e6, lengthM: 10, swr: 1.4 }
    const chain = quickChain(sum)
    if (!chain.possible) throw new Error(chain.message)
    expect(chainDocumentSchema.safeParse(chain.document).error).toBeUndefined()
    const { transmitter, stages, load } = chain.document
    if (load.kind !== 'swr') throw new Error('not an SWR')
    const { spread } = answerChain(
      { transmitter, stages, load },
      { frequencyHz: 145e6, powerW: 100 },
    )
    expect(spread!.planes[0]!.swr.low).toBeLessThan(1.4)
    expect(spread!.planes[0]!.swr.high).toBeGreaterThan(1.4 * 0.999)
  })
})
