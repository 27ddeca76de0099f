/** The parts of a matching network: coils and capacitors with loss, in series or across. */
import { type Complex, complex } from '../complex.ts'

export interface NetworkElement {
  place: 'series' | 'shunt'
  part: 'coil' | 'capacitor'
  /** H or F. A coil in series or a capacitor across may be 0: it is then not there. */
  value: number
}

/** How good the parts are. */
export interface PartQuality {
  coilQ: number
  /** Where the coil's Q was stated, Hz; it then goes as √f. Without it Q is the same everywhere. */
  coilQAtHz?: number | undefined
  capacitorQ: number
}

/** Loss factor 1/Q of a part at a frequency. */
export function lossFactor(
  part: NetworkElement['part'],
  { coilQ, coilQAtHz, capacitorQ }: PartQuality,
  frequencyHz: number,
): number {
  if (part === 'capacitor') return 1 / capacitorQ
  return 1 / (coilQAtHz === undefined ? coilQ : coilQ * Math.sqrt(frequencyHz / coilQAtHz))
}

/**
 * Direction of a series impedance: Z = x·u with x = |X| and u = 1/Q ± j. Its real part is the loss
 * resistance |X|/Q.
 */
export const seriesUnit = (part: NetworkElement['part'], loss: number): Complex =>
  complex(loss, part === 'coil' ? 1 : -1)

/** Direction of a shunt admittance of the same part: Y = b·w with b = 1/|X|. */
export function shuntUnit(part: NetworkElement['part'], loss: number): Complex {
  const d = 1 + loss * loss
  return complex(loss / d, (part === 'coil' ? -1 : 1) / d)
}

/** |X| of a coil or capacitor, Ω. */
export const reactanceOf = (part: NetworkElement['part'], value: number, hz: number): number =>
  part === 'coil' ? 2 * Math.PI * hz * value : 1 / (2 * Math.PI * hz * value)

/** The part whose reactance has this size. */
export const valueOf = (part: NetworkElement['part'], ohm: number, hz: number): number =>
  part === 'coil' ? ohm / (2 * Math.PI * hz) : 1 / (2 * Math.PI * hz * ohm)

/** Impedance in series or admittance across, as an element stands. */
export function immittanceOf(
  { place, part, value }: NetworkElement,
  quality: PartQuality,
  hz: number,
): Complex {
  const loss = lossFactor(part, quality, hz)
  if (place === 'series') {
    const x = reactanceOf(part, value, hz)
    const u = seriesUnit(part, loss)
    return complex(x * u.re, x * u.im)
  }
  const b = part === 'capacitor' && value === 0 ? 0 : 1 / reactanceOf(part, value, hz)
  const w = shuntUnit(part, loss)
  return complex(b * w.re, b * w.im)
}

/** What one part of a network bears; the currents and voltages are RMS at PEP. */
export interface ElementState extends NetworkElement {
  reactanceOhm: number
  voltageRms: number
  currentRms: number
  lossW: number
}

/** V and I, as four numbers: V re, V im, I re, I im. */
export type PhasorPair = Float64Array

/**
 * Carries voltage and current from the antenna's side of a network to the transmitter's, in place.
 *
 * @param elements from the transmitter's side to the antenna's
 * @param each told what every element bears, last one first
 */
export function throughElements(
  elements: readonly NetworkElement[],
  quality: PartQuality,
  hz: number,
  p: PhasorPair,
  each?: (state: ElementState, index: number) => void,
): void {
  for (let k = elements.length - 1; k >= 0; k--) {
    const element = elements[k]!
    const { re, im } = immittanceOf(element, quality, hz)
    const series = element.place === 'series'
    const from = series ? 2 : 0
    const to = series ? 0 : 2
    const addRe = re * p[from]! - im * p[from + 1]!
    const addIm = re * p[from + 1]! + im * p[from]!
    if (each) {
      const through = p[from]! ** 2 + p[from + 1]! ** 2
      const added = Math.hypot(addRe, addIm)
      each(
        {
          ...element,
          reactanceOhm: reactanceOf(element.part, element.value, hz),
          voltageRms: series ? added : Math.sqrt(through),
          currentRms: series ? Math.sqrt(through) : added,
          lossW: re * through,
        },
        k,
      )
    }
    p[to]! += addRe
    p[to + 1]! += addIm
  }
}
