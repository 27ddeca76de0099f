import { useLayoutEffect, useState } from 'react'
import { keysOf } from './storage.ts'

const PREFIX = 'saltline.kept.'

/** Forgets all that is half typed in this window: whoever signs out leaves nothing of it behind. */
export function forgetKept(): void {
  try {
    for (const key of keysOf(sessionStorage))
      if (key.startsWith(PREFIX)) sessionStorage.removeItem(key)
  } catch {
    // Closed storage: nothing was kept.
  }
}

/**
 * State of one window that outlives a change of view and a reload: what is half typed is not lost.
 *
 * @param first what it is before anything is kept; an object, whose missing parts are taken from it. Nothing is kept of what
 *   is as it was first
 */
export function useKept<T extends object>(name: string, first: T) {
  const key = PREFIX + name
  const blank = JSON.stringify(first)
  const [value, setValue] = useState(() => recalled(key, first))
  // With the key that typed it: whoever leaves right after it finds it again.
  useLayoutEffect(() => {
    const text = JSON.stringify(value)
    try {
      if (text === blank) sessionStorage.removeItem(key)
      else sessionStorage.setItem(key, text)
    } catch {
      // Then it lasts as long as the page.
    }
  }, [key, value, blank])
  return {
    value,
    put: (change: Partial<T>) => setValue((old) => ({ ...old, ...change })),
    forget: () => sessionStorage.removeItem(key),
  }
}

function recalled<T extends object>(key: string, first: T): T {
  try {
    return { ...first, ...(JSON.parse(sessionStorage.getItem(key) ?? '{}') as Partial<T>) }
  } catch {
    return first
  }
}
