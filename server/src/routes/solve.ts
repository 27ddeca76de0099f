import type { ChainDocument, planRequestSchema } from '@saltline/contract'
import { answerChain, InputError, plan, type PlanRequest } from '@saltline/core'
import type { z } from 'zod'
import type { Database } from '../db/open.ts'
import { type Route, route } from '../http/route.ts'
import { chainOfDocument } from '../store/antennas.ts'
import { planning, solving } from '../work/kinds.ts'

export const solveRoutes = (db: Database): Route[] => [
  route('POST /solve', {
    work: solving,
    summary: 'Solve a chain document at a frequency and a set power',
    handle: async (_, { document, ...at }) => answerChain(await chainOfDocument(db, document), at),
  }),
  route('POST /plan', {
    work: planning,
    summary: 'Which cables, and where the tuner: all that is worth its price or its weight',
    handle: async (_, asked) => plan(await planOf(db, asked)),
  }),
]

/** A question about a document as one about its chain; what is not in the document is named. */
async function planOf(
  db: Database,
  { document, sections, counts, ...rest }: z.output<typeof planRequestSchema>,
): Promise<PlanRequest> {
  return {
    ...rest,
    chain: await chainOfDocument(db, document),
    at: document.channels.map(({ frequencyHz, powerW, mode }) => ({ frequencyHz, powerW, mode })),
    counts: counts === 'worst' ? counts : weightsOf(document, counts),
    sections: sections.map(({ stageId, ...section }, i) => {
      const stage = document.stages.findIndex(({ id }) => id === stageId)
      if (stage < 0)
        throw new InputError(`The chain has no stage “${stageId}”.`, ['sections', i, 'stageId'])
      return { ...section, stage }
    }),
  }
}

/** A weight for every channel; 0 where none is given. */
function weightsOf({ channels }: ChainDocument, counts: Readonly<Record<string, number>>) {
  for (const id of Object.keys(counts))
    if (!channels.some((channel) => channel.id === id))
      throw new InputError(`The chain has no channel “${id}”.`, ['counts', id])
  return channels.map(({ id }) => counts[id] ?? 0)
}
