import type { ChainDocument, ChainState, Station } from '@saltline/contract'
import type { RatedChain, SweepLoad } from '@saltline/core'
import { useQueries } from '@tanstack/react-query'
import { useMemo } from 'react'
import type { BoardRequest, Nearest } from '../../compute/tasks/board.ts'
import { useTask } from '../../compute/useTask.ts'
import { chainOfDocument } from '../../model/answers.ts'
import { chainOnPaperQuery, sweepQuery } from '../../platform/api/queries.ts'

export interface BoardChain {
  id: string
  name: string
  /** Null until it is there. */
  document: ChainDocument | null
  chain: RatedChain | null
  /** The part nearest to its limit; undefined until it is known, null where no limit is. */
  nearest: Nearest | null | undefined
  problem: string | null
}

interface Found<T> {
  data: T | undefined
  error: Error | null
}

/** Nothing but what came: it stays the same object for as long as it says the same. */
const found = <T>(results: readonly Found<T>[]): Found<T>[] =>
  results.map(({ data, error }) => ({ data, error }))

/** Every chain of a station, as it stands, with what its parts have left. */
export function useBoard({ chains }: Station): BoardChain[] {
  const states = useQueries({
    queries: chains.map(({ id }) => chainOnPaperQuery(id)),
    combine: found<ChainState>,
  })
  const sweepIds = [...new Set(states.flatMap(({ data }) => sweepIdOf(data) ?? []))]
  const sweeps = useQueries({ queries: sweepIds.map(sweepQuery), combine: found<SweepLoad> })
  const solved = useMemo(
    () =>
      states.map(({ data, error }, k) => {
        const { id, name } = chains[k]!
        const sweepId = sweepIdOf(data)
        const sweep = sweepId === undefined ? undefined : sweeps[sweepIds.indexOf(sweepId)]
        const document = data?.document ?? null
        return {
          id,
          name: document?.name ?? name,
          document,
          chain: document && chainOfDocument(document, sweep?.data),
          problem: (error ?? sweep?.error)?.message ?? null,
        }
      }),
    [chains, states, sweeps], // oxlint-disable-line react/exhaustive-deps
  )
  const request = useMemo<BoardRequest | null>(
    () =>
      solved.every(({ chain, problem }) => chain !== null || problem !== null)
        ? {
            chains: solved.flatMap(({ id, document, chain }) =>
              document && chain ? [{ id, document, chain }] : [],
            ),
          }
        : null,
    [solved],
  )
  const { last } = useTask('board', request)
  return solved.map((each) => ({ ...each, nearest: last?.[each.id] }))
}

function sweepIdOf(state: ChainState | undefined): string | undefined {
  const load = state?.document.load
  return load?.kind === 'antenna' ? load.sweepId : undefined
}
