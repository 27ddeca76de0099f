/** What was sent, held against its schema, with faults in the words of somebody who writes a program. */
import type { z } from 'zod'
import { invalidBody } from './problem.ts'

const kinds: Record<string, string> = {
  string: 'text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
  object: 'an object',
  record: 'an object',
  array: 'a list',
  tuple: 'a list',
}

/** Words for what a schema has none of its own for. */
const shapeWords: z.core.$ZodErrorMap = (issue) => {
  const missing = issue.input === undefined ? 'This is missing' : null
  if (issue.code === 'invalid_type') {
    const kind = kinds[issue.expected] ?? issue.expected
    return missing ? `${missing}: ${kind} is expected.` : `This must be ${kind}.`
  }
  if (issue.code === 'invalid_value') {
    const values = issue.values.map((value) => `“${String(value)}”`).join(', ')
    return `${missing ?? 'This is not known'}: one of ${values} is expected.`
  }
  if (issue.code === 'invalid_union') return `${missing ?? 'This is of no form that is known'}.`
  return undefined
}

/** @returns all that is wrong with a value, or the value as it is meant */
export const shaped = <S extends z.ZodType>(
  schema: S,
  value: unknown,
): z.ZodSafeParseResult<z.output<S>> => schema.safeParse(value, { error: shapeWords })

/** @throws ProblemError 422, each field at fault pointed at */
export function checked<S extends z.ZodType>(schema: S, value: unknown): z.output<S> {
  const parsed = shaped(schema, value)
  if (!parsed.success) throw invalidBody(parsed.error)
  return parsed.data
}
