import { useEffect, useLayoutEffect } from 'react'
import { flushSync } from 'react-dom'

/** What was typed before there was anything to type into. */
let typed = ''
let listening = false
/** Hands it over to what was opened; null until that is there. */
let handOver: (() => void) | null = null

/** What is opened to type into has the focus within so long, or there is nothing to wait for. */
const PATIENCE_MS = 2000

const isField = (target: EventTarget | null): boolean =>
  target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement

function keep(event: KeyboardEvent): void {
  const { key, ctrlKey, metaKey, altKey, target } = event
  if (isField(target)) {
    // The key goes on from what came before it: Backspace takes the last of that away.
    if (handOver) flushSync(handOver)
    return
  }
  if (ctrlKey || metaKey || altKey) return
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
  handOver = null
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
    const give = () => {
      rest()
      const early = typed
      if (early) put((value) => early + value)
    }
    const look = () => {
      if (!listening) return
      if (isField(document.activeElement)) give()
      else frame = requestAnimationFrame(look)
    }
    if (listening) handOver = give
    look()
    return () => {
      cancelAnimationFrame(frame)
      if (handOver === give) handOver = null
    }
  }, [put])
}
