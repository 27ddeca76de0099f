/** The quick sum: its address, every class of cable, and what cannot be. */
import { chainDocumentSchema, limits } from '@saltline/contract'
import { cableClasses, lineConstants, matchedLossDb } from '@saltline/core'
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { answerChannel, chainOfDocument } from '../src/model/answers.ts'
import {
  firstSum,
  quickChain,
  type QuickSum,
  readQuickSum,
  writeQuickSum,
} from '../src/pages/quick/quickSum.ts'

const plain = (text: string) => text.replaceAll('\u00a0', ' ')
const read = (text: string) => readQuickSum(new URLSearchParams(text))

const sums = fc.record<QuickSum>({
  powerW: fc.integer({ min: 1, max: 5000 }),
  cableId: fc.constantFrom(...cableClasses.map(({ id }) => id)),
  lengthM: fc.integer({ min: 1, max: 500 }),
  frequencyHz: fc.integer({ min: 1_800, max: 1_300_000 }).map((khz) => khz * 1000),
  swr: fc.integer({ min: 100, max: 1000 }).map((n) => n / 100),
  readAt: fc.constantFrom('radio', 'antenna'),
  tuner: fc.constantFrom('none', 'radio'),
})

describe('the address of a sum', () => {
  test('is read as it is written, whatever the figures', () => {
    fc.assert(
      fc.property(sums, (sum) => {
        expect(readQuickSum(new URLSearchParams(writeQuickSum(sum)))).toEqual({ sum, unread: [] })
      }),
    )
  })

  test('is in the units that people type', () => {
    expect(writeQuickSum(firstSum)).toEqual({
      p: '100',
      cable: 'pe-5',
      l: '30',
      f: '14.2',
      swr: '1.5',
      at: 'antenna',
    })
    expect(writeQuickSum({ ...firstSum, tuner: 'radio' })).toHaveProperty('tuner', 'radio')
    expect(read('p=1.5k&l=100ft&f=7100kHz&swr=2:1').sum).toMatchObject({
      powerW: 1500,
      lengthM: expect.closeTo(30.48, 9) as number,
      frequencyHz: 7.1e6,
      swr: 2,
    })
  })

  test('what is missing is as in the first sum', () => {
    expect(read('')).toEqual({ sum: firstSum, unread: [] })
    expect(read('at=radio&tuner=radio').sum).toMatchObject({ readAt: 'radio', tuner: 'radio' })
    expect(read('at=moon&tuner=moon').sum).toMatchObject({ readAt: 'antenna', tuner: 'none' })
  })

  test.each([
    ['p=lots', /^p=lots: /],
    ['l=-3', /^l=-3: /],
    ['f=0', /^f=0: /],
    ['swr=0.5', /^swr=0\.5: /],
    ['cable=string', /^cable=string: there is no such class of cable\.$/],
    [`p=${limits.powerW[1] * 10}`, /^p=\d+: /],
  ])('%s is named, and the first sum’s figure taken', (text, words) => {
    const { sum, unread } = read(text)
    expect(sum).toEqual(firstSum)
    expect(unread).toHaveLength(1)
    expect(unread[0]).toMatch(words)
  })

  test('every part that cannot be read is named', () =>
    expect(read('p=x&l=y&f=z&swr=q&cable=w').unread).toHaveLength(5))
})

describe('the chain of a sum', () => {
  test.each(cableClasses.map(({ id }) => id))('%s is kept and solved', (cableId) => {
    const chain = quickChain({ ...firstSum, cableId })
    if (!chain.possible) throw new Error(chain.message)
    expect(chainDocumentSchema.parse(chain.document)).toEqual(chain.document)
    const answer = answerChannel(
      chainOfDocument(chain.document, undefined)!,
      chain.document.transmitter,
      chain.document.channels[0]!,
    )
    if (!answer.ok) throw new Error(answer.message)
    expect(answer.solution.antennaW).toBeGreaterThan(0)
    expect(answer.solution.antennaW).toBeLessThan(100)
  })

  test('an SWR read at the radio is worse at the antenna, by twice the loss between', () => {
    const at = { ...firstSum, readAt: 'radio' as const, swr: 1.5 }
    const chain = quickChain(at)
    if (!chain.possible) throw new Error(chain.message)
    const cable = cableClasses.find(({ id }) => id === at.cableId)!
    const loss = matchedLossDb(lineConstants(cable, at.frequencyHz), at.lengthM)
    // |ρ| of 1.5 is 0.2.
    const rho = 0.2 * 10 ** (loss / 10)
    expect(chain.swrAtAntenna).toBeCloseTo((1 + rho) / (1 - rho), 6)
    expect(chain.document.load).toMatchObject({ kind: 'swr' })
    expect((chain.document.load as { swr: number }).swr).toBeCloseTo(chain.swrAtAntenna, 4)
    const there = quickChain({ ...at, readAt: 'antenna' })
    if (!there.possible) throw new Error(there.message)
    expect(there.swrAtAntenna).toBe(1.5)
  })

  test('more than an open end would read cannot be: it says what that would be, and the two ways out', () => {
    const chain = quickChain({ ...firstSum, readAt: 'radio', swr: 9, lengthM: 100 })
    if (chain.possible) throw new Error('possible')
    const cable = cableClasses.find(({ id }) => id === 'pe-5')!
    const loss = matchedLossDb(lineConstants(cable, firstSum.frequencyHz), 100)
    const rho = 10 ** (-loss / 10)
    const open = (1 + rho) / (1 - rho)
    expect(plain(chain.message)).toContain('An SWR of 9.00 at the radio cannot come through')
    expect(plain(chain.message)).toContain(`an open end would read only ${open.toFixed(2)}`)
    expect(chain.message).toMatch(/reading is wrong, or the cable is shorter or better/)
  })

  test('a tuner at the radio takes nothing and leaves the cable as it is', () => {
    const none = quickChain({ ...firstSum, swr: 5 })
    const tuned = quickChain({ ...firstSum, swr: 5, tuner: 'radio' })
    if (!none.possible || !tuned.possible) throw new Error('impossible')
    expect(tuned.document.stages.map(({ kind }) => kind)).toEqual(['tuner', 'line'])
    expect(tuned.document.stages.slice(1)).toEqual(none.document.stages)
    const watts = (document: typeof tuned.document) => {
      const answer = answerChannel(
        chainOfDocument(document, undefined)!,
        document.transmitter,
        document.channels[0]!,
      )
      if (!answer.ok) throw new Error(answer.message)
      return answer.solution
    }
    expect(watts(tuned.document).transmitterNetW).toBeCloseTo(100, 6)
    expect(watts(tuned.document).antennaW).toBeGreaterThan(watts(none.document).antennaW)
  })
})
