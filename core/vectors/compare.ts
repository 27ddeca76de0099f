import type { Solution } from '../src/chain/solution.ts'
import { solveChain } from '../src/chain/solve.ts'
import type { Chain, Stage } from '../src/index.ts'
import type { FoldbackPoint } from '../src/source/transmitter.ts'

/** Chain elements as the vector files write them; see docs/how-it-computes.md. */
type VectorElement =
  | {
      kind: 'line'
      lengthM: number
      z0Ohm: number
      velocityFactor: number
      conductorDbPer100m: number
      dielectricDbPer100m: number
    }
  | { kind: 'pad'; lossDb: number }
  | { kind: 'series' | 'shunt'; rOhm: number; xOhm: number }

interface ExpectedPlane {
  impedanceOhm: [number, number]
  swr: number
  netW: number
  forwardW: number
  reflectedW: number
  voltageRms: number
  currentRms: number
}

interface ExpectedElement {
  lossW: number
  lossDb: number
  matchedLossDb?: number
  maxVoltageRms?: number
  maxVoltageFromLoadM?: number
  maxCurrentRms?: number
  maxHeatWPerM?: number
  maxHeatFromLoadM?: number
}

export interface VectorCase {
  id: string
  frequencyHz: number
  elements: VectorElement[]
  loadOhm: [number, number]
  transmitter: {
    powerW: number
    behaviour: 'levelled' | 'peaked'
    foldback: FoldbackPoint[]
  }
  expected: {
    planes: ExpectedPlane[]
    transmitterNetW: number
    foldback: number
    antennaW: number
    totalLossDb: number
    elements: ExpectedElement[]
  }
}

export interface Worst {
  error: number
  caseId: string
}

/** A vector file states attenuation at its own frequency; a cable states it at 1 MHz. */
function chainOf(vector: VectorCase): Chain {
  const mhz = vector.frequencyHz / 1e6
  const stages = vector.elements.map((element): Stage => {
    if (element.kind !== 'line') return element
    return {
      kind: 'line',
      lengthM: element.lengthM,
      cable: {
        z0Ohm: element.z0Ohm,
        velocityFactor: element.velocityFactor,
        k1DbPer100m: element.conductorDbPer100m / Math.sqrt(mhz),
        k2DbPer100m: element.dielectricDbPer100m / mhz,
      },
    }
  })
  const { behaviour, foldback } = vector.transmitter
  const [rOhm, xOhm] = vector.loadOhm
  return { transmitter: { behaviour, foldback }, stages, load: { kind: 'fixed', rOhm, xOhm } }
}

const solveVector = (vector: VectorCase): Solution =>
  solveChain(chainOf(vector), {
    frequencyHz: vector.frequencyHz,
    powerW: vector.transmitter.powerW,
  })

/** Along-line extremes in the files were sampled, so they agree a little less closely. */
export const limitOf = (quantity: string): number => (quantity.startsWith('max') ? 1e-5 : 1e-6)

/** The worst relative error of every quantity over all cases. */
export function compareVectors(cases: readonly VectorCase[]): Map<string, Worst> {
  const worst = new Map<string, Worst>()
  for (const vector of cases) {
    const { expected } = vector
    const got = solveVector(vector)
    const note = (
      quantity: string,
      actual: number,
      wanted?: number,
      scale = Math.abs(wanted ?? 0),
    ) => {
      if (wanted === undefined) return
      const gap = Math.abs(actual - wanted)
      // A NaN must never pass for a small error.
      const error = actual === wanted ? 0 : Number.isNaN(gap) ? Infinity : gap / scale
      if (error >= (worst.get(quantity)?.error ?? 0))
        worst.set(quantity, { error, caseId: vector.id })
    }
    note('transmitterNetW', got.transmitterNetW, expected.transmitterNetW)
    note('foldback', got.foldback, expected.foldback)
    note('antennaW', got.antennaW, expected.antennaW)
    note('totalLossDb', got.chainLossDb, expected.totalLossDb)
    expected.planes.forEach((wanted, k) => {
      const plane = got.planes[k]!
      const { impedanceOhm: z } = plane
      const size = Math.hypot(...wanted.impedanceOhm)
      const gap = Math.hypot(z.re - wanted.impedanceOhm[0], z.im - wanted.impedanceOhm[1])
      note('impedanceOhm', gap, 0, size)
      for (const name of ['swr', 'netW', 'forwardW', 'voltageRms', 'currentRms'] as const)
        note(name, plane[name], wanted[name])
      // On a near-perfect match the reflected power is rounding noise of the forward power.
      note(
        'reflectedW',
        plane.reflectedW,
        wanted.reflectedW,
        Math.max(wanted.reflectedW, 1e-9 * wanted.forwardW),
      )
    })
    expected.elements.forEach((wanted, k) => {
      const stage = got.stages[k]!
      const inW = expected.planes[k]!.netW
      // A loss is a difference of two powers: its error is stated against the larger of the loss
      // and a millionth of the power, where rounding of the powers themselves begins to show.
      note('lossW', stage.lossW, wanted.lossW, Math.max(Math.abs(wanted.lossW), 1e-6 * inW))
      note('lossDb', stage.lossDb, wanted.lossDb, Math.max(Math.abs(wanted.lossDb), 1e-6))
      if (!stage.line) return
      note('matchedLossDb', stage.line.matchedLossDb, wanted.matchedLossDb)
      note('maxVoltageRms', stage.line.maxVoltageRms.value, wanted.maxVoltageRms)
      note('maxCurrentRms', stage.line.maxCurrentRms.value, wanted.maxCurrentRms)
      note('maxHeatWPerM', stage.line.maxHeatWPerM.value, wanted.maxHeatWPerM)
    })
  }
  return worst
}
