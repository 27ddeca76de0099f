import type { Chain } from '../chain/chain.ts'

/**
 * One stage of a chain by itself, as it lies on a table: what is swept of a cable alone.
 *
 * @param stage index of the stage
 *
 * @example pieceAlone({ ...chain, stages: [{ kind: 'pad', lossDb: 1 }, line] }, 1).stages.map(({ kind }) => kind) // ['line']
 */
export const pieceAlone = (chain: Chain, stage: number): Chain => ({
  ...chain,
  stages: chain.stages.slice(stage, stage + 1),
})
