import type { ChainDocument } from '@saltline/contract'

/** Index of the plane in front of a stage, or at the load; null where there is none. */
export function planeOf({ stages }: ChainDocument, before: string): number | null {
  if (before === 'load') return stages.length
  const index = stages.findIndex(({ id }) => id === before)
  return index < 0 ? null : index
}

/** What a plane is called in the log. */
export const placeName = ({ stages }: ChainDocument, plane: number): string =>
  plane === stages.length
    ? 'at the antenna'
    : plane === 0
      ? 'at the radio'
      : `input of ${stages[plane]!.name}`
