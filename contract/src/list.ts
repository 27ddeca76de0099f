/** Arrays that come from outside and may be very long. */
import { z } from 'zod'

/** As many faults are looked for. */
const MOST_FAULTS = 50
/** Shorter ones are quick to check whole. */
const SHORT = 200

const grouped = (n: number): string => String(n).replace(/\B(?=(\d{3})+$)/g, ' ')

/**
 * An array whose length is looked at before its elements, and whose elements are looked at until fifty faults are
 * found: a million wrong ones make neither a million faults nor a wait.
 *
 * @param what it holds, in the plural
 */
export const list = <T extends z.ZodType>(item: T, most: number, what: string) =>
  z.preprocess((value, context) => {
    if (!Array.isArray(value) || (value.length <= SHORT && value.length <= most)) return value
    if (value.length > most) {
      context.addIssue(`At most ${grouped(most)} ${what}; these are ${grouped(value.length)}.`)
      return z.NEVER
    }
    let faults = 0
    for (let i = 0; i < value.length && faults < MOST_FAULTS; i++) {
      for (const issue of item.safeParse(value[i]).error?.issues ?? []) {
        context.addIssue({ ...issue, code: 'custom', path: [i, ...issue.path] })
        faults++
      }
    }
    return faults > 0 ? z.NEVER : (value as unknown[])
  }, z.array(item).max(most)) as unknown as z.ZodType<z.output<T>[], z.input<T>[]>
