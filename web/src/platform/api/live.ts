import { type LiveFigure, type LiveMeter } from '@saltline/contract'
import { useMemo, useSyncExternalStore } from 'react'
import { call } from './client.ts'
import { watchChain } from './changes.ts'

/** A meter that sends nothing for so long has lost its signal, ms. */
const LOST_MS = 2000
/** Seconds of trend that are drawn. */
const TREND_S = 300

export interface LiveNow {
  latest: LiveFigure
  /** Seconds since it was heard. */
  silentS: number
  lost: boolean
  /** [seconds ago, W], the oldest first. */
  trend: readonly (readonly [number, number])[]
}

interface Heard {
  latest: LiveFigure
  at: number
  /** [ms of this browser’s clock, W] once a second. */
  trend: [number, number][]
}

const heardOf = ({ latest, trend }: LiveMeter): Heard => {
  const now = Date.now()
  const age = trend.at(-1)?.[0] ?? 0
  return {
    latest,
    at: now - age * 1000,
    trend: trend.map(([ago, watts]): [number, number] => [now - ago * 1000, watts]),
  }
}

function heardAgain(before: Heard | undefined, latest: LiveFigure): Heard {
  const at = Date.now()
  const trend = (before?.trend ?? []).filter(([when]) => at - when < TREND_S * 1000)
  const last = trend.at(-1)
  if (last && at - last[0] < 1000) trend[trend.length - 1] = [last[0], latest.forwardW]
  else trend.push([at, latest.forwardW])
  return { latest, at, trend }
}

/** The live meters of one chain, heard once for all that show them. */
class LiveMeters {
  private heard: ReadonlyMap<number, Heard> = new Map()
  private now: readonly LiveNow[] = []
  private readonly listeners = new Set<() => void>()
  private stop: () => void = () => undefined

  constructor(private readonly chainId: string) {}

  subscribe = (listener: () => void): (() => void) => {
    if (this.listeners.size === 0) {
      all.set(this.chainId, this)
      this.start()
    }
    this.listeners.add(listener)
    return () => {
      this.listeners.delete(listener)
      if (this.listeners.size === 0) {
        this.stop()
        all.delete(this.chainId)
      }
    }
  }

  getSnapshot = (): readonly LiveNow[] => this.now

  private start(): void {
    // What was sent before this window opened; without an answer it begins with what comes.
    call('GET /live/:chainId', { params: { chainId: this.chainId } }).then(
      (meters) =>
        this.take([
          ...meters.map((meter) => [meter.latest.plane, heardOf(meter)] as const),
          ...this.heard,
        ]),
      () => undefined,
    )
    const unwatch = watchChain(this.chainId, {
      live: (figures) =>
        this.take([
          ...this.heard,
          ...figures.map(
            (figure) => [figure.plane, heardAgain(this.heard.get(figure.plane), figure)] as const,
          ),
        ]),
    })
    // Silence is news too.
    const timer = setInterval(() => this.heard.size > 0 && this.take([...this.heard]), 500)
    this.stop = () => {
      unwatch()
      clearInterval(timer)
    }
  }

  private take(heard: Iterable<readonly [number, Heard]>): void {
    this.heard = new Map(heard)
    const now = Date.now()
    this.now = [...this.heard.values()]
      .map(({ latest, at, trend }) => {
        const silent = Math.max(0, now - at)
        return {
          latest,
          silentS: silent / 1000,
          lost: silent > LOST_MS,
          trend: trend.map(([when, watts]) => [(now - when) / 1000, watts] as const),
        }
      })
      .sort((a, b) => a.latest.plane - b.latest.plane)
    for (const listener of this.listeners) listener()
  }
}

const all = new Map<string, LiveMeters>()

function metersOf(chainId: string): LiveMeters {
  const known = all.get(chainId)
  if (known) return known
  const meters = new LiveMeters(chainId)
  all.set(chainId, meters)
  return meters
}

/** The live meters of a chain, as they are heard by this browser. */
export function useLive(chainId: string): readonly LiveNow[] {
  const meters = useMemo(() => metersOf(chainId), [chainId])
  return useSyncExternalStore(meters.subscribe, meters.getSnapshot)
}
