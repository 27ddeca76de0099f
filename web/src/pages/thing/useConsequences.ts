import type { StageDocument, Thing } from '@saltline/contract'
import { useQueries } from '@tanstack/react-query'
import { chainOfDocument } from '../../model/answers.ts'
import { consequences, withThing } from '../../model/things.ts'
import { chainOnPaperQuery, sweepQuery } from '../../platform/api/queries.ts'

export interface Consequence {
  chain: string
  phrases: string[]
}

/**
 * What follows where a thing gets other figures, in every chain that has it as it is.
 *
 * @param but the chain that has those figures already
 * @returns null until all chains are there
 */
export function useConsequences(
  thing: Thing,
  figures: StageDocument | undefined,
  but?: string,
): Consequence[] | null {
  const places = figures ? thing.places.filter(({ same, chainId }) => same && chainId !== but) : []
  const states = useQueries({ queries: places.map(({ chainId }) => chainOnPaperQuery(chainId)) })
  const sweepIds = states.map(({ data }) =>
    data?.document.load.kind === 'antenna' ? data.document.load.sweepId : undefined,
  )
  const sweeps = useQueries({ queries: sweepIds.map(sweepQuery) })
  if (states.some(({ isPending }) => isPending)) return null
  if (sweeps.some(({ isPending }, i) => isPending && sweepIds[i] !== undefined)) return null
  return places.map(({ chain }, i) => {
    const document = states[i]?.data?.document
    if (!document) return { chain, phrases: ['it could not be read'] }
    return {
      chain,
      phrases: consequences(document, withThing(document, thing.id, figures!), (each) =>
        chainOfDocument(each, sweeps[i]?.data),
      ),
    }
  })
}
