import { useLayoutEffect } from 'react'

let typed = ''

/**
 * Stands for something that is opened to type into, while its code is on the way: what is typed meanwhile is kept for it,
 * and is not taken for the page's keys.
 */
export function TypedEarly() {
  useLayoutEffect(() => {
    typed = ''
    const keep = (event: KeyboardEvent) => {
      const { key, ctrlKey, metaKey, altKey } = event
      if (ctrlKey || metaKey || altKey) return
      if (key.length === 1) typed += key
      else if (key === 'Backspace') typed = typed.slice(0, -1)
      else return
      event.preventDefault()
      event.stopPropagation()
    }
    addEventListener('keydown', keep, { capture: true })
    return () => removeEventListener('keydown', keep, { capture: true })
  }, [])
  return null
}

/** What was typed before there was anything to type into; once. */
export function typedEarly(): string {
  const early = typed
  typed = ''
  return early
}
