/** What it costs to read at a place: a reading up a mast has to tell more than one at the desk to be worth it. */

/** In readings at the desk; null where it cannot be done today. */
export const COSTS = {
  desk: { label: 'at the desk', cost: 1 },
  walk: { label: 'a walk away', cost: 1.5 },
  climb: { label: 'up the mast', cost: 3 },
  no: { label: 'not today', cost: null },
} as const

export type CostName = keyof typeof COSTS

/** A reading that settles a smaller share of what is open is not worth taking. */
export const LEAST_SETTLED = 0.05

/** Of every place by its name, as far as the operator has said; else at the desk. */
export const costNames = (
  places: readonly string[],
  said: Readonly<Record<string, CostName>>,
): CostName[] =>
  places.map((place) => {
    const own = Object.hasOwn(said, place) ? said[place] : undefined
    return own && Object.hasOwn(COSTS, own) ? own : 'desk'
  })

/** Where the first cause is this likely nothing is open that another reading would settle. */
export const SETTLED = 0.98
