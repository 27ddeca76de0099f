import { describe, expect, test } from 'vitest'
import type { ChainDocument } from '@saltline/contract'
import { checkLimits, standingOf } from '@saltline/core'
import { chainOfDocument, operatingPoint } from '../src/model/answers.ts'
import { isPart, partName, surroundingsOf } from '../src/model/headroomWords.ts'
import { ratingLines } from '../src/model/ratings.ts'
import { document as fixture } from './fixtures.ts'

/** A lead that bears so many watts, and a run of which nothing is known. */
const rated = (watts: number): ChainDocument => ({
  ...fixture,
  stages: fixture.stages.map((stage) =>
    stage.id === 'b' ? { ...stage, limits: { powerW: watts } } : stage,
  ) as ChainDocument['stages'],
})
const plain = (text: string) => text.replaceAll('\u00a0', ' ')
const linesOf = (document: ChainDocument) => {
  const channel = document.channels[0]!
  const chain = chainOfDocument(document, undefined)!
  return ratingLines(document, chain, channel).map(plain)
}

describe('what is known of the ratings', () => {
  test('every part is in one line, by its worst standing, and what is past its limit is first', () => {
    for (const watts of [10, 75, 95, 400]) {
      const document = rated(watts)
      const channel = document.channels[0]!
      const chain = chainOfDocument(document, undefined)!
      const { stresses } = checkLimits(
        chain,
        operatingPoint(document.transmitter, channel),
        surroundingsOf(document, channel),
      )
      const lines = linesOf(document)
      const over = new Set(
        stresses
          .filter((stress) => isPart(stress) && standingOf(stress) === 'over')
          .map(({ part }) => partName(document, part)),
      )
      const said = lines.filter((line) => line.startsWith('▲ over')).join(' ')
      for (const name of over) expect(said).toContain(name)
      if (over.size === 0) expect(said).toBe('')
      else expect(lines[0]).toMatch(/^▲ over: .* \(\d+\.\d dB over\)$/)
    }
  })

  test('a part without a rating is named as not known, never as fine', () => {
    expect(linesOf(fixture).join(' ')).toMatch(/\? Not known: .*Run/)
  })

  test('a channel without a figure says why', () => {
    const document = {
      ...fixture,
      stages: [
        {
          id: 'f',
          kind: 'pad',
          part: 'filter',
          name: 'Filter',
          lossDb: 0.2,
          passes: [144e6, 146e6],
        },
      ],
    } as ChainDocument
    expect(linesOf(document)).toEqual([expect.stringMatching(/^This filter blocks/)])
  })
})
