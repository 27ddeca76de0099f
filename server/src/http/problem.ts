import type { Problem } from '@saltline/contract'
import type { ErrorRequestHandler, RequestHandler } from 'express'
import type { z } from 'zod'
import { InputError } from '@saltline/core'

/** An error that is answered as problem details (RFC 9457). */
export class ProblemError extends Error {
  override readonly name = 'ProblemError'
  constructor(readonly problem: Omit<Problem, 'type'> & { type?: string }) {
    super(problem.detail ?? problem.title)
  }
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

/** A body that does not have its shape: each field at fault is pointed at. */
export function invalidBody(error: z.ZodError): ProblemError {
  const errors = error.issues.map((issue) => ({
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

const fromInputError = (error: InputError): ProblemError =>
  new ProblemError({
    status: 422,
    title: 'This cannot be computed',
    detail: error.message,
    errors: [{ pointer: pointerOf(error.path), message: error.message }],
  })

interface BodyParserError extends Error {
  type: string
  status: number
  limit?: number
}

function fromBodyParser(error: BodyParserError): ProblemError {
  if (error.type === 'entity.too.large') {
    return new ProblemError({
      status: 413,
      title: 'Too large',
      detail: `The body may have at most ${Math.round((error.limit ?? 0) / 1024)} KiB.`,
    })
  }
  return new ProblemError({
    status: 400,
    title: 'Not readable',
    detail:
      error.type === 'entity.parse.failed'
        ? `The body is not valid JSON: ${error.message}.`
        : 'The body could not be read.',
  })
}

export const noSuchRoute: RequestHandler = () => {
  throw notFound('address in the API')
}

export const problemHandler: ErrorRequestHandler = (error: unknown, req, res, next) => {
  if (res.headersSent) return next(error)
  let problem: ProblemError
  if (error instanceof ProblemError) problem = error
  else if (error instanceof InputError) problem = fromInputError(error)
  else if (error instanceof Error && 'type' in error && 'status' in error)
    problem = fromBodyParser(error as BodyParserError)
  else {
    req.log?.error({ err: error }, 'unexpected error')
    problem = new ProblemError({
      status: 500,
      title: 'Salt Line made a mistake',
      detail: 'Nothing was changed. The log of the server says more.',
    })
  }
  const { type = 'about:blank', ...rest } = problem.problem
  res
    .status(rest.status)
    .type('application/problem+json')
    .send(JSON.stringify({ type, ...rest }))
}
