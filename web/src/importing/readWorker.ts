/** Reads a sweep file off the page's own thread: a file of 20 MB must not freeze it. */
import { MEASURED_POINTS } from '@saltline/contract'
import {
  guessMapping,
  readSweepTable,
  readTouchstone,
  readTwoPort,
  REFERENCE_OHM,
  sweepFromTable,
  type SweepTable,
  thinTwoPort,
} from '@saltline/core'
import { isTouchstone, isTwoPort, previewOf, type ReadReply, type ReadRequest } from './reading.ts'

let table: SweepTable | null = null

async function read(request: ReadRequest): Promise<ReadReply> {
  if ('mapping' in request)
    return { kind: 'sweep', ...sweepFromTable(table!, request.mapping, REFERENCE_OHM) }
  const { file } = request
  const text = await file.text()
  if (isTwoPort(file.name)) {
    const sweep = readTwoPort(text, REFERENCE_OHM)
    const pointCount = sweep.frequencyHz.length
    return { kind: 'twoPort', thinned: thinTwoPort(sweep, MEASURED_POINTS), pointCount }
  }
  if (isTouchstone(file.name))
    return { kind: 'sweep', sweep: readTouchstone(text, REFERENCE_OHM), phaseKnown: true }
  table = readSweepTable(text)
  return { kind: 'table', table: previewOf(table, guessMapping(table)) }
}

self.onmessage = async ({ data }: MessageEvent<ReadRequest>) => {
  let reply: ReadReply
  try {
    reply = await read(data)
  } catch (error) {
    reply = { kind: 'problem', message: error instanceof Error ? error.message : String(error) }
  }
  self.postMessage(reply)
}
