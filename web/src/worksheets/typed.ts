import { useState } from 'react'

/**
 * What was typed on the worksheets, by sheet: another subject, another sheet or another page in between
 * loses nothing. It stays as long as the window does.
 */
const typed = new Map<string, Record<string, unknown>>()

/**
 * The fields of a worksheet, as they were left.
 *
 * @param key of the sheet; a kept sheet that is taken up again has a key of its own
 */
export function useTyped(key: string, initial: Record<string, unknown>) {
  const [inputs, setInputs] = useState(() => ({ ...initial, ...typed.get(key) }))
  const put = (change: Record<string, unknown>) =>
    setInputs((old) => {
      const next = { ...old, ...change }
      typed.set(key, next)
      return next
    })
  const clear = () => {
    typed.delete(key)
    setInputs(initial)
  }
  return { inputs, put, clear, changed: typed.has(key) }
}
