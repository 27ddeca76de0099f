import { act, type Action, begin, type Play, type Simulation } from '@saltline/core'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'

/** While something is keyed, time is let pass so often, ms. */
const TICK_MS = 250

type Doing = Action extends infer A ? (A extends { at: number } ? Omit<A, 'at'> : never) : never

/** A simulated bench under the learner's hands, on the clock of the page. */
export function usePlay(simulation: Simulation) {
  const started = useRef<number | null>(null)
  const [state, setState] = useState(() => ({ of: simulation, play: begin(simulation) }))
  // Another bench: what is set stays, as on a bench where one thing was put right.
  const play = useMemo(
    () => (state.of === simulation ? state.play : resume(simulation, state.play)),
    [state, simulation],
  )
  /** Seconds since the first thing was done. */
  const now = useCallback(
    () => (started.current === null ? 0 : (performance.now() - started.current) / 1000),
    [],
  )
  const perform = useCallback(
    (doing: Doing) => {
      started.current ??= performance.now()
      const action = { ...doing, at: now() }
      setState((before) => ({
        of: simulation,
        play: act(
          simulation,
          before.of === simulation ? before.play : resume(simulation, before.play),
          action,
        ),
      }))
    },
    [simulation, now],
  )
  const [at, setAt] = useState(0)
  const keyed = play.keyedAt !== null
  useEffect(() => {
    const timer = setInterval(() => {
      if (keyed) perform({ do: 'wait' })
      setAt(now())
    }, TICK_MS)
    return () => clearInterval(timer)
  }, [keyed, perform, now])
  return { play, perform, now, at: Math.max(at, play.at) }
}

const resume = (simulation: Simulation, before: Play): Play => {
  const fresh = begin(simulation)
  return {
    ...fresh,
    settings: before.settings,
    at: before.at,
    keyDownS: before.keyDownS + (before.keyedAt === null ? 0 : before.at - before.keyedAt),
    longestS: before.longestS,
    troubles: before.troubles,
    count: before.count + 1,
    heat: before.heat,
  }
}
