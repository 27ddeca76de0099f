import { useLayoutEffect } from 'react'

export interface Shortcut {
  keys: string
  what: string
}

/** All keys there are, for the page that `?` opens. */
export const shortcuts: readonly { where: string; list: readonly Shortcut[] }[] = [
  {
    where: 'Anywhere on a chain',
    list: [
      { keys: '1 … 9', what: 'pick a channel' },
      { keys: 'e', what: 'edit the channel' },
      { keys: 's', what: 'go to the spine' },
      { keys: 'z', what: 'look closer at the lower part of the band, and back' },
      { keys: 't', what: 'curve across the band as a table, and back' },
      { keys: 'r', what: 'keep what a live meter shows' },
      { keys: 'Ctrl + Z', what: 'undo' },
      { keys: 'Ctrl + Shift + Z', what: 'redo' },
      { keys: 'Esc', what: 'close the side panel' },
      { keys: '/ or Ctrl + K', what: 'find and do anything' },
      { keys: '?', what: 'help: first steps, keys, glossary' },
    ],
  },
  {
    where: 'On the spine',
    list: [
      { keys: '← →', what: 'from stage to stage, or from plane to plane' },
      { keys: '↑ ↓', what: 'between planes and stages' },
      { keys: 'Enter', what: 'open in the side panel, and go there' },
      { keys: 'Alt + ← →', what: 'move the stage' },
      {
        keys: 'i',
        what: 'on a stage: insert on its antenna side; on a plane: choose what to insert',
      },
      { keys: 'd', what: 'duplicate the stage' },
      { keys: 'b', what: 'bypass the stage, and back' },
      { keys: 'Del', what: 'remove the stage' },
    ],
  },
  {
    where: 'On a practice bench',
    list: [
      { keys: 'k', what: 'key, and unkey' },
      { keys: '↑ ↓ Page Up, Page Down, Home, End', what: 'turn a knob' },
    ],
  },
  {
    where: 'In a number',
    list: [
      { keys: '↑ ↓', what: 'one step; with Shift ten, with Alt a tenth' },
      { keys: '40 ft, 7,1 MHz, 1.5k', what: 'units and suffixes as you think of them' },
      { keys: 'Esc', what: 'back to what it was' },
    ],
  },
]

/** Inputs that are pressed or slid: letters and digits mean nothing to them. */
const PRESSED_INPUTS = ['checkbox', 'radio', 'range', 'file', 'button', 'color']

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLInputElement
    ? !PRESSED_INPUTS.includes(target.type)
    : target instanceof HTMLElement &&
      (target.isContentEditable || /^(TEXTAREA|SELECT)$/.test(target.tagName))

/** `ctrl+z`, `ctrl+shift+z`, `?`, `1`: what was pressed, in one word. */
function chordOf(event: KeyboardEvent): string {
  const key = event.key.length === 1 ? event.key.toLowerCase() : event.key
  const control = event.ctrlKey || event.metaKey
  return `${control ? 'ctrl+' : ''}${control && event.shiftKey ? 'shift+' : ''}${key}`
}

/**
 * Page-wide keys, by chord. Plain keys are left alone while something is typed or a dialog or menu
 * is open; chords with Ctrl work while typing too, except undo, which a text field has of its own.
 */
export function useKeys(bindings: Record<string, () => void>): void {
  // As soon as the page is there: whoever sees it may press a key.
  useLayoutEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.defaultPrevented || event.altKey) return
      const chord = chordOf(event)
      const action = bindings[chord]
      if (!action) return
      if (document.querySelector('[role="dialog"], [role="menu"]')) return
      if (isTyping(event.target) && chord !== 'ctrl+k' && chord !== 'Escape') return
      // Escape leaves a field at once: the next key is meant for the page, however quick it comes.
      if (chord === 'Escape' && isTyping(event.target)) (event.target as HTMLElement).blur()
      event.preventDefault()
      action()
    }
    addEventListener('keydown', press)
    return () => removeEventListener('keydown', press)
  }, [bindings])
}
