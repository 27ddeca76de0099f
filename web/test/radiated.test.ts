import { ledgerOf, stressesOf } from '@saltline/core'
import { chainDocumentSchema } from '@saltline/contract'
import { describe, expect, test } from 'vitest'
import { ledgerAsText } from '../src/lenses/budget/ledgerAsText.ts'
import { answerChannel, chainOfDocument } from '../src/model/answers.ts'
import { lacksGain, licenceAt, surroundingsOf } from '../src/model/headroomWords.ts'
import { dbwText, radiatedOf } from '../src/model/radiated.ts'
import { document } from './fixtures.ts'

const [first, second] = document.channels as [
  (typeof document.channels)[number],
  (typeof document.channels)[number],
]
const band = { lowHz: 4e6, highHz: 4.4e6, dbi: 5.15 }

describe('radiated power', () => {
  test('without a gain there is none; a band goes before the rest, to its very edges', () => {
    expect(radiatedOf(document, first, 100)).toBeNull()
    expect(radiatedOf({ ...document, antennaGains: [band] }, second, 100)).toBeNull()
    const gains = { ...document, antennaGainDbi: 0, antennaGains: [band] }
    expect(radiatedOf(gains, second, 100)).toEqual({ kind: 'EIRP', watts: 100 })
    for (const frequencyHz of [4e6, 4.4e6, 4.146e6])
      expect(radiatedOf(gains, { frequencyHz }, 100)!.watts).toBeCloseTo(327.34, 2)
    expect(radiatedOf(gains, { frequencyHz: 4.400001e6 }, 100)!.watts).toBe(100)
  })

  test('ERP where the licence speaks of it: 2.15 dB less; the range goes along', () => {
    const licence = { kind: 'ERP' as const, watts: 400 }
    const erp = radiatedOf({ antennaGainDbi: 5.16, licence }, first, 100, { low: 50, high: 200 })!
    expect(erp.kind).toBe('ERP')
    // 3.01 dB is twice.
    expect(erp.watts).toBeCloseTo(200, 0)
    expect(erp.range!.low).toBeCloseTo(100, 0)
    expect(erp.range!.high).toBeCloseTo(400, 0)
    expect(dbwText(200).replace('\u00a0', ' ')).toBe('23.0 dBW')
    expect(dbwText(0)).toBe('none')
  })

  test('a licence allows what its band says, else what it says everywhere', () => {
    const licence = {
      kind: 'antenna' as const,
      watts: 400,
      average: true,
      bands: [{ lowHz: 7e6, highHz: 7.2e6, watts: 100 }],
    }
    expect(licenceAt(licence, 7.1e6)).toEqual({ kind: 'antenna', watts: 100, average: true })
    expect(licenceAt(licence, 7.3e6)).toEqual({ kind: 'antenna', watts: 400, average: true })
    expect(licenceAt(undefined, 7.1e6)).toBeUndefined()
  })
  test('the licence is judged by the gain of the channel’s own band', () => {
    const own = {
      ...document,
      licence: { kind: 'EIRP' as const, watts: 200 },
      antennaGainDbi: 0,
      antennaGains: [band],
    }
    const judged = (channel: typeof first) => {
      const answer = answerChannel(chainOfDocument(own, undefined)!, own.transmitter, channel)
      if (!answer.ok) throw new Error(answer.message)
      const { antennaW } = answer.solution
      const stress = stressesOf(own.stages, answer.solution, surroundingsOf(own, channel)).find(
        ({ kind }) => kind === 'licence',
      )!
      return stress.stress / antennaW
    }
    expect(judged(first)).toBeCloseTo(10 ** 0.515, 6)
    expect(judged(second)).toBeCloseTo(1, 6)
    // Where only the other band has a gain, that one alone is judged.
    const { antennaGainDbi: _, ...partly } = own
    expect([lacksGain(partly, first), lacksGain(partly, second)]).toEqual([false, true])
    expect(lacksGain({ ...partly, licence: { kind: 'PEP', watts: 1 } }, second)).toBe(false)
  })

  test('it is copied with the ledger, and a band that ends before it begins is refused', () => {
    const answer = answerChannel(chainOfDocument(document, undefined)!, document.transmitter, first)
    if (!answer.ok) throw new Error(answer.message)
    const ledger = ledgerOf(answer.solution)
    const plain = ledgerAsText(document, ledger).split('\n')
    const radiating = ledgerAsText(document, ledger, null, { kind: 'EIRP', watts: 312 }).split('\n')
    expect(radiating.slice(0, -1)).toEqual(plain)
    expect(radiating.at(-1)).toBe('EIRP\t\t312.000')
    const refused = chainDocumentSchema.safeParse({
      ...document,
      antennaGains: [{ lowHz: 5e6, highHz: 4e6, dbi: 1 }],
    })
    expect(refused.success).toBe(false)
    expect(refused.error!.issues[0]!.message).toMatch(/end above where it begins/)
  })
})
