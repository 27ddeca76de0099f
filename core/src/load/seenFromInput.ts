import { rhoOfSwr, swrOf } from './reflection.ts'

/** The SWR at the far end of a flat line, or why the reading and the line cannot both be right. */
export type SwrAtLoad =
  | { possible: true; swr: number; rho: number }
  | { possible: false; rho: number; highestSwrSeen: number }

/**
 * The SWR at a load from the SWR read at the input of a line of known matched loss:
 * |ρ_load| = |ρ_in|·10^(loss/10), since the returning wave pays the loss twice. A |ρ| of 1 or more is
 * a contradiction: `highestSwrSeen` is what even an open end would read through this line.
 *
 * @param swr read at the input, ≥ 1
 * @param matchedLossDb of the line between, ≥ 0
 * @example swrAtLoad(1.5, 1) // { possible: true, swr: 1.673, rho: 0.2518 }
 */
export function swrAtLoad(swr: number, matchedLossDb: number): SwrAtLoad {
  const twoWay = 10 ** (matchedLossDb / 10)
  const rho = rhoOfSwr(swr) * twoWay
  return rho < 1
    ? { possible: true, swr: swrOf(rho), rho }
    : { possible: false, rho, highestSwrSeen: swrOf(1 / twoWay) }
}
