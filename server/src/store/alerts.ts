import type { Alert, ChainDocument, YearRow } from '@saltline/contract'
import {
  decimals,
  formatFrequency,
  type RoundMean,
  longAgoWords,
  swrOf,
  type YearSeries,
  yearSeries,
} from '@saltline/core'
import type { Database } from '../db/open.ts'
import { readChain } from './chains.ts'
import { placeName, planeOf } from './places.ts'
import { listRounds } from './rounds.ts'
import { weekRows } from './years.ts'
import { readStation } from './stations.ts'

const MOST = 12
/** A year, and one before it to compare with. */
const SPAN_MS = 2.5 * 365.25 * 24 * 3600 * 1000

/**
 * What the record of a station says should be looked at: losses that grew, power that fell, reflections
 * that moved, and readings of each chain's last session outside of what was expected. The gravest first.
 */
export async function stationAlerts(db: Database, stationId: string): Promise<Alert[]> {
  const { chains } = await readStation(db, stationId)
  const alerts = await Promise.all(
    chains.map(async ({ id }) => chainAlerts(db, id, (await readChain(db, id)).document)),
  )
  return alerts
    .flat()
    .sort((a, b) => weight(b) - weight(a))
    .slice(0, MOST)
}

const weight = ({ kind, change }: Alert): number =>
  ({ loss: 3, power: 2, swr: 1, outside: 0 })[kind] + Math.min(0.9, Math.abs(change) / 10)

async function chainAlerts(db: Database, chainId: string, document: ChainDocument) {
  const [latest] = await listRounds(db, chainId, 1)
  if (!latest) return []
  const now = Date.parse(latest.lastAt)
  const since = new Date(now - SPAN_MS).toISOString()
  const places = [...document.stages.map(({ id }) => id), 'load']
  const found = new Map<string, Alert>()
  const weeks = await weekRows(db, chainId, since)
  for (const channel of document.channels) {
    const rows = weeks.get(channel.id) ?? []
    for (const series of yearSeries(rows.map(asMean), places)) {
      const alert = alertOf(series, document, { chainId, channelId: channel.id, now })
      if (!alert) continue
      // One cause shows on several channels: the largest stands for all.
      const key = `${alert.kind} ${alert.what}`
      const known = found.get(key)
      if (!known || Math.abs(alert.change) > Math.abs(known.change)) found.set(key, alert)
    }
  }
  const alerts = [...found.values()]
  if (latest.outsideCount > 0)
    alerts.push({
      chainId,
      chain: document.name,
      kind: 'outside',
      what: 'last session',
      text: `${latest.outsideCount} of ${latest.readingCount} readings of the last session are outside the expected range`,
      change: 0,
      since: latest.startedAt,
      channelId: null,
    })
  return alerts
}

export const asMean = ({ roundId, at, ...row }: YearRow): RoundMean => ({
  ...row,
  round: roundId,
  at: Date.parse(at),
})

function alertOf(
  { subject, change, points }: YearSeries,
  document: ChainDocument,
  { chainId, channelId, now }: { chainId: string; channelId: string; now: number },
): Alert | null {
  if (!change) return null
  const named = (before: string) => {
    const plane = planeOf(document, before)
    return plane === null ? before : placeName(document, plane)
  }
  const then = longAgoWords(change.comparedWith, now)
  const hz = document.channels.find(({ id }) => id === channelId)!.frequencyHz
  const db = `${decimals(Math.abs(change.by), 1)}\u00a0dB`
  const base = {
    chainId,
    chain: document.name,
    change: change.by,
    since: change.since === null ? null : new Date(change.since).toISOString(),
    channelId,
  }
  if (subject.kind === 'loss') {
    // Less loss than before is no reason to worry.
    if (change.by < 0) return null
    const what = sectionName(document, subject.from, subject.to)
    return {
      ...base,
      kind: 'loss',
      what,
      text: `${what}: ${db} more than ${then}, on ${formatFrequency(hz)}`,
    }
  }
  if (subject.kind === 'power')
    return {
      ...base,
      kind: 'power',
      what: `power ${named(subject.at)}`,
      text: `Power ${named(subject.at)}: ${db} ${change.by < 0 ? 'less' : 'more'} than ${then}, on ${formatFrequency(hz)}`,
    }
  const last = points.at(-1)!.value
  return {
    ...base,
    kind: 'swr',
    what: `SWR ${named(subject.at)}`,
    text: `SWR ${named(subject.at)} on ${formatFrequency(hz)}: ${decimals(swrOf(last), 1)} now, ${decimals(swrOf(Math.max(0, last - change.by)), 1)} ${then}`,
  }
}

/** The stage that loses most between two places stands for the section. */
export function sectionName(document: ChainDocument, from: string, to: string): string {
  const a = planeOf(document, from) ?? 0
  const b = planeOf(document, to) ?? document.stages.length
  const stages = document.stages.slice(a, b)
  const longest = stages
    .filter((stage) => stage.kind === 'line')
    .reduce<{ name: string; lengthM: number } | null>(
      (best, line) => (best && best.lengthM >= line.lengthM ? best : line),
      null,
    )
  return longest?.name ?? stages[0]?.name ?? 'chain'
}
