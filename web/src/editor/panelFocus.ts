/** Whether the side panel that opens next shall take the focus: asked for by key, never by pointer. */
let wanted: 'field' | 'insert' | null = null

/** Called before the selection changes. */
export const wantPanel = (part: 'field' | 'insert' = 'field'): void => {
  wanted = part
  // A panel that was open already does not open: what was asked for must not wait for the next one.
  setTimeout(() => (wanted = null), 1000)
}

/** What was asked for, once. */
export function panelWanted(): 'field' | 'insert' | null {
  const part = wanted
  wanted = null
  return part
}
