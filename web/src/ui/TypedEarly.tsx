import { useEffect, useLayoutEffect } from 'react'

/** What was typed before there was anything to type into. */
let typed = ''
let listening = false

/** What is opened to type into has the focus within so long, or there is nothing to wait for. */
const PATIENCE_MS = 2000

const isField = (target: EventTarget | null): boolean =>
  target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement

function keep(event: KeyboardEvent): void {
  const { key, ctrlKey, metaKey, altKey, target } = event
  if (ctrlKey || metaKey || altKey || isField(target)) return
  if (key.length === 1) typed += key
  else if (key === 'Backspace') typed = typed.slice(0, -1)
  else return
  event.preventDefault()
  event.stopPropagation()
}

function listen(): void {
  if (listening) return
  typed = ''
  listening = true
  addEventListener('keydown', keep, { capture: true })
}

function rest(): void {
  listening = false
  removeEventListener('keydown', keep, { capture: true })
}

/**
 * Stands for something that is opened to type into, while its code is on the way: what is typed meanwhile is kept for it,
 * and is not taken for the page's keys, until `useTypedEarly` has it.
 */
export function TypedEarly() {
  useLayoutEffect(() => {
    listen()
    return () => void setTimeout(rest, PATIENCE_MS)
  }, [])
  return null
}

/** Hands over what was typed early, as soon as the field to type into has the focus. */
export function useTypedEarly(put: (change: (value: string) => string) => void): void {
  useEffect(() => {
    let frame = 0
    const look = () => {
      if (!listening) return
      if (!isField(document.activeElement)) {
        frame = requestAnimationFrame(look)
        return
      }
      rest()
      const early = typed
      // What was typed into the field itself in the meantime came after it.
      if (early) put((value) => early + value)
    }
    look()
    return () => cancelAnimationFrame(frame)
  }, [put])
}
