/** How well a chain is known. All are half-widths that hold nineteen times in twenty. */
export interface Tolerances {
  /** Of a length, as a share. */
  length: number
  /** Of a cable's loss, as a share: data sheets state typical cables. */
  cable: number
  /** Of the loss of connectors, arresters, chokes and other small parts, as a share. */
  parts: number
  /** Of the transmitter's power, as a share. */
  source: number
  /** Of the antenna's reflection: a share of its size. */
  reflection: number
}

/** What is known only within limits. */
export const toleranceNames = ['source', 'length', 'cable', 'parts', 'reflection'] as const
export type ToleranceName = (typeof toleranceNames)[number]

/** Where nothing better is known: rules of practice, editable on every chain. */
export const usualTolerances: Tolerances = {
  length: 0.02,
  cable: 0.08,
  parts: 0.4,
  source: 0.1,
  reflection: 0.1,
}
