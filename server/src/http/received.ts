/** Bodies that are files: they go to a disk as they come in. */
import { createWriteStream } from 'node:fs'
import { join } from 'node:path'
import { Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import type { Request } from 'express'
import { inFolder } from '../work/folder.ts'
import { ProblemError } from './problem.ts'

/**
 * Does something with the file that a request brings, which is gone afterwards.
 *
 * @param limit what it may have, bytes
 * @throws ProblemError 413 where it has more
 */
export const received = <T>(
  req: Request,
  limit: number,
  run: (path: string) => Promise<T>,
): Promise<T> =>
  inFolder(async (folder) => {
    if (Number(req.headers['content-length'] ?? 0) > limit) throw tooLarge(limit)
    const path = join(folder, 'received')
    await pipeline(req, atMost(limit), createWriteStream(path))
    return run(path)
  })

function atMost(limit: number): Transform {
  let seen = 0
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      seen += chunk.length
      if (seen <= limit) done(null, chunk)
      else done(tooLarge(limit))
    },
  })
}

const tooLarge = (limit: number) =>
  new ProblemError({
    status: 413,
    title: 'Too large',
    detail: `A file may have at most ${limit / 1024 / 1024} MB.`,
  })
