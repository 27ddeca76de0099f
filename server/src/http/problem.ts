/** What went wrong, as problem details (RFC 9457). */
import type { Problem } from '@saltline/contract'
import { InputError } from '@saltline/core'
import type { z } from 'zod'
import { faultOf } from '../db/faults.ts'
import { StoreError } from '../store/errors.ts'

type Details = Omit<Problem, 'type'> & { type?: string }

/** An error that is answered as problem details (RFC 9457). */
export class ProblemError extends Error {
  override readonly name = 'ProblemError'
  /** When it is worth trying again, s. */
  readonly retryAfterS: number | undefined

  /** @param options the cause, where it is one for the log; when it is worth trying again, s */
  constructor(
    readonly problem: Details,
    { retryAfterS, ...options }: ErrorOptions & { retryAfterS?: number } = {},
  ) {
    super(problem.detail ?? problem.title, options)
    this.retryAfterS = retryAfterS
  }
}

/** What was asked for was done; what it came to cannot be sent. */
export class AnswerError extends Error {
  override readonly name = 'AnswerError'
}

export const notFound = (what: string): ProblemError =>
  new ProblemError({
    status: 404,
    title: `No such ${what}`,
    detail: `There is no ${what} at this address; it may have been deleted.`,
  })

type Path = readonly (string | number | symbol)[]

/** RFC 6901: `~` and `/` in a name are escaped. */
const pointerOf = (path: Path): string =>
  path.map((part) => `/${String(part).replace(/~/g, '~0').replace(/\//g, '~1')}`).join('')

/** As many faults of a body are told. */
const MOST_FAULTS = 50

/** A body that does not have its shape: each field at fault is pointed at, up to fifty of them. */
export function invalidBody(error: z.ZodError): ProblemError {
  const errors = error.issues.slice(0, MOST_FAULTS).map((issue) => ({
    pointer: pointerOf(issue.path),
    message: issue.message,
  }))
  const [first] = errors
  return new ProblemError({
    status: 422,
    title: 'Some fields need attention',
    detail: first && `${first.message} (at ${first.pointer || 'the body itself'})`,
    errors,
  })
}

const statuses: Record<StoreError['reason'], number> = { missing: 404, conflict: 409, invalid: 422 }

function fromStore({ reason, title, message, facts }: StoreError): ProblemError {
  const { path, ...rest } = facts
  return new ProblemError({
    status: statuses[reason],
    title,
    detail: message,
    ...rest,
    ...(path && { errors: [{ pointer: pointerOf(path), message }] }),
  })
}

const fromInputError = (error: InputError): ProblemError =>
  new ProblemError({
    status: 422,
    title: 'This cannot be computed',
    detail: error.message,
    errors: [{ pointer: pointerOf(error.path), message: error.message }],
  })

export const invalidJson = (error: Error): ProblemError =>
  new ProblemError({
    status: 400,
    title: 'Not readable',
    detail: `The body is not valid JSON: ${error.message}.`,
  })

/** What Express and its body readers refuse by a status of their own. */
interface RefusedRequest extends Error {
  status: number
  type?: string
  limit?: number
}

const isRefused = (error: unknown): error is RefusedRequest =>
  error instanceof Error &&
  'status' in error &&
  typeof error.status === 'number' &&
  error.status >= 400 &&
  error.status < 500

function fromRefused({ status, type, limit }: RefusedRequest): ProblemError {
  if (type === 'entity.too.large')
    return new ProblemError({
      status: 413,
      title: 'Too large',
      detail: `The body may have at most ${Math.round((limit ?? 0) / 1024)} KiB.`,
    })
  if (status === 416)
    return new ProblemError({
      status,
      title: 'No such range',
      detail: 'The file is shorter than the range that was asked for.',
    })
  return new ProblemError({
    status,
    title: 'Not readable',
    detail:
      status === 404
        ? 'There is nothing at this address.'
        : 'The address, a header or the body of the request could not be read.',
  })
}

/**
 * The problem that an error is told as.
 *
 * @param changes whether the request could have changed something
 * @param log told of what nobody expected
 */
export function problemOf(
  error: unknown,
  changes: boolean,
  log: (error: unknown) => void = () => undefined,
): Problem {
  return { type: 'about:blank', ...detailsOf(error, changes, log) }
}

function detailsOf(error: unknown, changes: boolean, log: (error: unknown) => void): Details {
  if (error instanceof ProblemError) {
    if (error.cause !== undefined) log(error.cause)
    return error.problem
  }
  if (error instanceof StoreError) return fromStore(error).problem
  if (error instanceof InputError) return fromInputError(error).problem
  if (isRefused(error)) return fromRefused(error).problem
  const fault = faultOf(error)
  log(error)
  if (fault)
    return {
      status: fault.status,
      title: fault.title,
      detail: `${changes ? 'Nothing was changed. ' : ''}${fault.cure}`,
    }
  if (error instanceof AnswerError && changes)
    return {
      status: 500,
      title: 'It was kept, but cannot be shown',
      detail:
        'What you sent was kept. Reload to see it; the log of the server says what went wrong.',
    }
  return {
    status: 500,
    title: 'Salt Line made a mistake',
    detail: 'Reload to see what is kept. The log of the server says what went wrong.',
  }
}
