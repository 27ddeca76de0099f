/** Tables of readings, typed, pasted or exported, read into what the record keeps. Apart from the rest, since it brings a reader of CSV. */
export type { ChainAtHand, Choices, UnknownName } from './names.ts'
export { LEAVE_OUT } from './names.ts'
export { type DateOrder, readDate } from './readDate.ts'
export {
  type ReadOptions,
  readingsFromText,
  type ReadTable,
  type Understood,
} from './readingsFromText.ts'
