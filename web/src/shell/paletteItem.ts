/** Something that can be found by a few letters of it, and done. */
export interface PaletteItem {
  id: string
  group: string
  label: string
  hint?: string
  /** Other words that it is found by. */
  words?: string
  run: () => void
}
