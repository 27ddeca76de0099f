import type { Alert } from '@saltline/contract'
import { standingOf } from '@saltline/core'
import type { BoardChain } from './useBoard.ts'

/**
 * How the station is, by its record and by the limits of its parts. Nothing is counted before all of it is known: a count
 * that has been read does not change.
 */
export function stateText(
  board: readonly Pick<BoardChain, 'id' | 'nearest' | 'problem'>[],
  alerts: readonly Pick<Alert, 'chainId'>[],
  measured: boolean,
): string {
  if (board.some(({ nearest, problem }) => nearest === undefined && problem === null))
    return 'Working out the headroom of every part…'
  const need = board.filter(
    ({ id, nearest }) =>
      alerts.some(({ chainId }) => chainId === id) ||
      (nearest && standingOf(nearest.stress) === 'over'),
  ).length
  if (need > 0)
    return `${need} of ${board.length} ${board.length === 1 ? 'chain' : 'chains'} ${need === 1 ? 'needs' : 'need'} attention.`
  return measured
    ? 'All readings are as expected, and no part is known to be over its limit.'
    : 'No readings yet. Measuring every month shows how a station ages.'
}
