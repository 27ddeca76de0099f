/** Which sweep is looked at: one that is planned, a file, or one that was kept, with the chain of its day. */
import { type ChainDocument, newId } from '@saltline/contract'
import {
  type Chain,
  type FarEnd,
  ofTwoPorts,
  type Reflections,
  usualTolerances,
} from '@saltline/core'
import { useQuery } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import type { AlongRequest } from '../../compute/tasks/alongLine.ts'
import type { LineFitRequest } from '../../compute/tasks/lineFit.ts'
import { useTask } from '../../compute/useTask.ts'
import { sweepText } from '../../model/sweepFile.ts'
import { usePreferences } from '../../platform/preferences.ts'
import { errorText } from '../../platform/errorText.ts'
import { planesAlong, planFor, type SweepPlan } from '../../model/alongLine.ts'
import { chainOfDocument } from '../../model/answers.ts'
import { lineSweepQuery, lineSweepsQuery } from '../../platform/api/lineSweepQueries.ts'
import { revisionQuery, sweepQuery } from '../../platform/api/queries.ts'

/** A sweep file that was chosen, as long as the page is open. */
export interface Chosen {
  id: string
  name: string
  text: string
  /** When it was taken, as far as the file tells. */
  readAt: string
}

interface Look {
  file: Chosen | null
  plane: number | null
  farEnd: FarEnd
}
const looks = new Map<string, Look>()
const FIRST: Look = { file: null, plane: null, farEnd: 'antenna' }

export function useLineSweep(
  chainId: string,
  document: ChainDocument,
  chain: Chain,
  /** A kept one to look at, and one to look at with it. */
  ids: { sweep: string | null; before: string | null },
) {
  const [look, setLook] = useState<Look>(looks.get(chainId) ?? FIRST)
  const [unread, setUnread] = useState<string | null>(null)
  const [typed, setTyped] = useState<Partial<SweepPlan>>({})
  const { data: kept } = useQuery(lineSweepsQuery(chainId))
  const { data: sweep } = useQuery(lineSweepQuery(ids.sweep))
  const { data: before } = useQuery(lineSweepQuery(ids.before))
  const shown = look.file ? null : (sweep ?? null)

  // A kept sweep is held against the chain as it was on its day.
  const { data: then } = useQuery(revisionQuery(chainId, shown?.chainRevision ?? null))
  const thenSweepId = then?.load.kind === 'antenna' ? then.load.sweepId : undefined
  const { data: thenAntenna } = useQuery(sweepQuery(thenSweepId))
  const ofItsDay = useMemo(
    () => (shown && then ? chainOfDocument(then, thenAntenna) : null),
    [shown, then, thenAntenna],
  )
  const asThen = ofItsDay && then ? { document: then, chain: ofItsDay } : null
  const held = asThen ?? { document, chain }

  const planes = useMemo(() => planesAlong(held.document), [held.document])
  const wanted = shown
    ? held.document.stages.findIndex(({ id }) => id === shown.before)
    : (look.plane ?? planes[0]?.plane ?? 0)
  const seen = planes.some((each) => each.plane === wanted)
  const plane = seen ? wanted : (planes[0]?.plane ?? 0)
  const farEnd = shown?.farEnd ?? look.farEnd
  const plan = useMemo(
    () => ({ ...planFor(held.document, plane), ...typed }),
    [held.document, plane, typed],
  )
  const possible = planes.length > 0 && plan.lowHz < plan.highHz
  const tolerances = held.document.tolerances ?? usualTolerances
  const earlier: Reflections | null = before ?? null
  const own = look.file?.text ?? shown
  // A kept sweep brings what its own was.
  const { analyser: here } = usePreferences()
  const analyser = shown?.analyser ?? here
  const request = useMemo(
    (): AlongRequest | null =>
      possible && (seen || !shown)
        ? {
            ...{ chain: held.chain, tolerances, plane, farEnd, plan },
            sweep: own,
            ...{ before: earlier, analyser },
          }
        : null,
    [held.chain, tolerances, plane, farEnd, plan, own, earlier, analyser, possible, seen, shown],
  )
  const fitRequest = useMemo(
    (): LineFitRequest | null =>
      own && (seen || !shown)
        ? { chain: held.chain, tolerances, plane, farEnd, sweep: own, analyser }
        : null,
    [held.chain, tolerances, plane, farEnd, own, analyser, seen, shown],
  )
  const { result, last, problem } = useTask('alongLine', request)
  const change = (part: Partial<Look>) => {
    const next = { ...look, ...part }
    looks.set(chainId, next)
    setLook(next)
  }
  return {
    ...{ kept, shown, before: before ?? null, file: look.file, asThen, planes, plane, farEnd },
    ...{ plan, possible, setTyped: (part: typeof typed) => setTyped({ ...typed, ...part }) },
    document: held.document,
    fitRequest,
    along: shown && !seen ? null : (result ?? (problem === null ? last : null)),
    problem:
      unread ??
      (shown && !seen
        ? `This sweep was taken ${shown.place}, from where no line can be looked along: a tuner or an amplifier is behind it.`
        : problem),
    setPlane: (next: number) => change({ plane: next }),
    setFarEnd: (next: FarEnd) => change({ farEnd: next }),
    drop: () => change({ file: null }),
    async take(file: File) {
      const text = await sweepText(file).catch((error: unknown) => {
        setUnread(errorText(error))
        return null
      })
      if (text === null) return
      setUnread(null)
      const readAt = new Date(file.lastModified || Date.now()).toISOString()
      // At the second port of two the analyser is the load.
      const seen = ofTwoPorts(text) ? { farEnd: 'load' as const } : {}
      change({ ...seen, file: { id: newId(), name: file.name, text, readAt } })
    },
  }
}

export type LineSweepLook = ReturnType<typeof useLineSweep>
