/** The account of a chain: shares, and what an amplifier adds. */
import { describe, expect, test } from 'vitest'
import { type Chain, ledgerOf, solveChain, type Stage } from '../src/index.ts'
import { foamLine, stationOf } from './stations.ts'

const at = { frequencyHz: 14e6, powerW: 100 }
const pad: Stage = { kind: 'pad', lossDb: 3 }
const matched: Chain['load'] = { kind: 'fixed', rOhm: 50, xOhm: 0 }
const amplifier: Stage = {
  ...{ kind: 'amplifier', gainDb: 10, driveW: 60, fullW: 600, behaviour: 'levelled' },
  ...{ foldback: [], inputOhm: { rOhm: 50, xOhm: 0 } },
}
const of = (stages: Stage[], load = matched) => ledgerOf(solveChain(stationOf(stages, load), at))

describe('the ledger', () => {
  test('of two pads of 3 dB: half of the watts, and of these two thirds in the first', () => {
    const { rows, takenW, addedW, lossDb, antennaW } = of([pad, pad])
    const half = 10 ** -0.3
    expect(antennaW).toBeCloseTo(100 * half * half, 6)
    expect([takenW, addedW, lossDb].map((own) => Number(own.toFixed(6)))).toEqual([
      ...[Number((100 * (1 - half * half)).toFixed(6)), 0, 6],
    ])
    const first = (1 - half) / (1 - half * half)
    const shares = [0, first, 1 - first]
    rows.forEach(({ share, inW, outW, lossW, stage }, i) => {
      expect(stage).toBe(i - 1)
      expect(share).toBeCloseTo(shares[i]!, 9)
      expect(lossW).toBeCloseTo(inW - outW, 9)
    })
    expect(rows[1]!.lossW).toBeCloseTo(100 * (1 - half), 6)
  })

  test('an amplifier takes no share, what it adds is told apart, and shares add up to one', () => {
    const { rows, takenW, addedW, lostW, settingW, antennaW } = of(
      [pad, amplifier, pad, foamLine(40)],
      { kind: 'fixed', rOhm: 80, xOhm: 30 },
    )
    const [added] = rows.filter(({ stage }) => stage === 1)
    expect(added!.share).toBe(0)
    expect(addedW).toBeCloseTo(added!.outW - added!.inW, 6)
    expect(addedW).toBeGreaterThan(100)
    expect(lostW).toBeCloseTo(settingW - antennaW, 9)
    expect(takenW).toBeCloseTo(settingW + addedW - antennaW, 9)
    const others = rows.filter(({ stage }) => stage !== 1)
    for (const { share, inW, outW } of others)
      expect(share).toBeCloseTo((inW - outW) / (settingW + addedW - antennaW), 9)
    expect(others.reduce((sum, { share }) => sum + share, 0)).toBeCloseTo(1, 9)
  })

  test('where nothing is taken nobody has a share, and all decibels are those of the radio and the line', () => {
    expect(of([]).rows.map(({ share }) => share)).toEqual([0])
    const bent = of([pad], { kind: 'fixed', rOhm: 200, xOhm: 0 })
    expect(bent.lossDb).toBeCloseTo(10 * Math.log10(bent.settingW / bent.antennaW), 9)
    expect(bent.rows[0]!.lossW).toBeGreaterThan(0)
  })
})
