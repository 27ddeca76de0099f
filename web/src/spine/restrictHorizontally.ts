import type { Modifier } from '@dnd-kit/core'

/** A stage slides along the row, never off it. */
export const restrictHorizontally: Modifier = ({ transform }) => ({ ...transform, y: 0 })
