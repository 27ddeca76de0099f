import { useCallback, useState } from 'react'
import { z } from 'zod'
import type { Typed } from '../../model/stepEntry.ts'

const schema: z.ZodType<Typed> = z.object({
  forwardW: z.number().nullable().catch(null),
  reflectedW: z.number().nullable().catch(null),
  swr: z.number().nullable().catch(null),
  dials: z.array(z.string()).catch([]),
})
const EMPTY: Typed = { forwardW: null, reflectedW: null, swr: null, dials: [] }

/** What is typed survives a reload, until the step is kept. */
export function useTypedStep(
  runId: string,
  stepId: string,
  /** What was entered here before, to be corrected. */
  before: Partial<Typed>,
): [typed: Typed, put: (change: Partial<Typed>) => void, forget: () => void] {
  const key = `saltline.run ${runId} ${stepId}`
  const [typed, setTyped] = useState(() => {
    try {
      const waiting = localStorage.getItem(key)
      return waiting === null ? { ...EMPTY, ...before } : schema.parse(JSON.parse(waiting))
    } catch {
      return EMPTY
    }
  })
  const put = useCallback(
    (change: Partial<Typed>) =>
      setTyped((old) => {
        const next = { ...old, ...change }
        try {
          localStorage.setItem(key, JSON.stringify(next))
        } catch {
          // Closed storage: it holds until the page is left.
        }
        return next
      }),
    [key],
  )
  const forget = useCallback(() => localStorage.removeItem(key), [key])
  return [typed, put, forget]
}
