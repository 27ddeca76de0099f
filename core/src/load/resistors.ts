import { type Complex, complex, divide } from '../complex.ts'

/** A dummy load of equal resistors in parallel, with the strays that spoil it at high frequency. */
export interface ResistorsLoad {
  kind: 'resistors'
  /** Of one resistor. */
  ohmEach: number
  count: number
  /** In series with the whole, H. */
  strayInductanceH: number
  /** Across the whole, F. */
  strayCapacitanceF: number
}

/** (R/N + jωL) with C across it. */
export function resistorsImpedance(load: ResistorsLoad, frequencyHz: number): Complex {
  const omega = 2 * Math.PI * frequencyHz
  const r = load.ohmEach / load.count
  const x = omega * load.strayInductanceH
  const b = omega * load.strayCapacitanceF
  // Z/(1 + jωC·Z)
  return divide(complex(r, x), complex(1 - b * x, b * r))
}
