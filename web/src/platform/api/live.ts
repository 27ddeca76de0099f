import { type LiveFigure, type LiveMeter, liveMeterSchema } from '@saltline/contract'
import { useEffect, useState } from 'react'
import { z } from 'zod'
import { call } from './client.ts'
import { onLive } from './changes.ts'

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

/** The live meters of a chain, as they are heard by this browser. */
export function useLive(chainId: string): readonly LiveNow[] {
  const [heard, setHeard] = useState<ReadonlyMap<number, Heard>>(new Map())
  const [now, setNow] = useState(Date.now)
  useEffect(() => {
    let gone = false
    // What was sent before this window opened; without an answer it begins with what comes.
    call('GET', `/live/${chainId}`, z.array(liveMeterSchema)).then(
      (meters) => {
        if (gone) return
        setHeard(
          (before) =>
            new Map([
              ...meters.map((meter) => [meter.latest.plane, heardOf(meter)] as const),
              ...before,
            ]),
        )
      },
      () => undefined,
    )
    const unwatch = onLive(chainId, (figures) =>
      setHeard((before) => {
        const next = new Map(before)
        for (const figure of figures)
          next.set(figure.plane, heardAgain(next.get(figure.plane), figure))
        return next
      }),
    )
    return () => {
      gone = true
      unwatch()
    }
  }, [chainId])
  const any = heard.size > 0
  useEffect(() => {
    if (!any) return
    const timer = setInterval(() => setNow(Date.now()), 500)
    return () => clearInterval(timer)
  }, [any])
  return [...heard.values()]
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
}
