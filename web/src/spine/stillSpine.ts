import type { SpineActions } from './spineProps.ts'

const ignore = () => undefined

/** For a spine that is only a picture: stand it in an inert box. */
export const stillSpine: SpineActions = {
  select: ignore,
  move: ignore,
  remove: ignore,
  duplicate: ignore,
  toggleBypass: ignore,
  insertAfter: ignore,
  moveTo: ignore,
  insertAt: ignore,
}
