import { type Complex, complex, divide } from '../complex.ts'
import type { Cable } from '../line/cable.ts'
import { half } from '../statistics/random.ts'
import { checkCable, writeLine } from './line.ts'
import type { StageModel } from './model.ts'
import { type Abcd, newAbcd, writeThrough } from './twoPort.ts'

/** A length of cable across the line, open or shorted at its far end. */
export interface StubStage {
  kind: 'stub'
  lengthM: number
  cable: Cable
  end: 'open' | 'short'
}

const own = newAbcd()

const asLine = ({ lengthM, cable }: Pick<StubStage, 'lengthM' | 'cable'>) =>
  ({ kind: 'line', lengthM, cable }) as const

/** Its admittance across the line: C/A with an open far end, D/B with a shorted one. */
export function writeStub(stage: StubStage, frequencyHz: number, out: Abcd): void {
  writeLine(asLine(stage), frequencyHz, own)
  const [num, den] = stage.end === 'open' ? [4, 0] : [6, 2]
  const re = own[den]!
  const im = own[den + 1]!
  const size = re * re + im * im
  writeThrough(out)
  out[4] = (own[num]! * re + own[num + 1]! * im) / size
  out[5] = (own[num + 1]! * re - own[num]! * im) / size
}

/**
 * Its impedance across the line, Ω: infinite parts where it lets everything past.
 *
 * @example stubImpedance({ kind: 'stub', cable, lengthM: 2, end: 'open' }, 10e6) // { re: 0.6291, im: -67.33 }
 */
export function stubImpedance(stage: StubStage, frequencyHz: number): Complex {
  const m = newAbcd()
  writeStub(stage, frequencyHz, m)
  return divide(complex(1, 0), complex(m[4]!, m[5]!))
}

/** Places along a stub that its voltage is looked at. */
const PLACES = 90

/**
 * The highest voltage along a stub over that at its input. An open stub of a quarter wave has it at its far end, and
 * far more of it than the line: it may arc there.
 *
 * @returns ≥ 1
 * @example stubVoltageRise({ kind: 'stub', cable, lengthM: 6, end: 'open' }, 10e6) // 2.689
 */
export function stubVoltageRise(stage: StubStage, frequencyHz: number): number {
  const { lengthM, cable, end } = stage
  /** |V| at a distance from the far end, on a common scale. */
  const size = (fromEndM: number): number => {
    writeLine(asLine({ lengthM: fromEndM, cable }), frequencyHz, own)
    const at = end === 'open' ? 0 : 2
    return Math.hypot(own[at]!, own[at + 1]!) * Math.exp(own[8]!)
  }
  const input = size(lengthM)
  let most = input
  for (let i = 0; i < PLACES; i++) most = Math.max(most, size((lengthM * i) / PLACES))
  return input > 0 ? most / input : 1
}

/**
 * Checks, matrix and tolerances of a stub.
 *
 * @internal
 */
export const stubModel: StageModel<StubStage> = {
  check: ({ lengthM, cable, end }, checks) => {
    checks.notNegative(lengthM, 'Length', 'lengthM')
    checkCable(cable, checks)
    if (end === 'short' && lengthM === 0)
      checks.refuse(
        'A shorted stub of no length is a short circuit: nothing gets past it.',
        'lengthM',
      )
  },
  write: (stage, hz, _reference, out) => writeStub(stage, hz, out),
  varied: {
    copy: (stage) => ({ ...stage, cable: { ...stage.cable } }),
    draw: (from, to, tolerances, random) => {
      to.lengthM = from.lengthM * Math.max(0, 1 + half(random) * tolerances.length)
      const loss = Math.max(0, 1 + half(random) * tolerances.cable)
      to.cable.k1DbPer100m = from.cable.k1DbPer100m * loss
      to.cable.k2DbPer100m = from.cable.k2DbPer100m * loss
    },
  },
}
