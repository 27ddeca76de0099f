/** Which sweep is looked at: one that is planned, a file, or one that was kept, with the chain of its day. */
import { type ChainDocument, newId, type StageDocument } from '@saltline/contract'
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
import { alongOf, farEndsOf, looksAlong, planFor, type SweepPlan } from '../../model/alongLine.ts'
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

interface Setup {
  file: Chosen | null
  /** Where the analyser is connected, by the key of the look. */
  at: string | null
  farEnd: FarEnd
}
const setups = new Map<string, Setup>()
const FIRST: Setup = { file: null, at: null, farEnd: 'antenna' }

const NO_STAGES: readonly StageDocument[] = []

export function useLineSweep(
  chainId: string,
  document: ChainDocument,
  chain: Chain,
  /** A kept one to look at, and one to look at with it. */
  ids: { sweep: string | null; before: string | null },
  /** What is to be at the far end, as it was advised; null leaves it as it was. */
  advised: FarEnd | null,
) {
  const [setup, setSetup] = useState<Setup>(() => ({
    ...(setups.get(chainId) ?? FIRST),
    ...(advised && { farEnd: advised }),
  }))
  const [unread, setUnread] = useState<string | null>(null)
  const [typed, setTyped] = useState<Partial<SweepPlan>>({})
  const { data: kept } = useQuery(lineSweepsQuery(chainId))
  const { data: sweep } = useQuery(lineSweepQuery(ids.sweep))
  const { data: before } = useQuery(lineSweepQuery(ids.before))
  const shown = setup.file ? null : (sweep ?? null)

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

  const looks = useMemo(() => looksAlong(held.document), [held.document])
  const wanted = shown
    ? looks.find(({ before, alone }) => before === shown.before && alone === shown.alone)
    : looks.find(({ key }) => key === setup.at)
  const look = wanted ?? (shown ? undefined : looks[0])
  const part = useMemo(
    () => look && alongOf(look, held.document, held.chain),
    [look, held.document, held.chain],
  )
  const ends = farEndsOf(look)
  const farEnd =
    shown?.farEnd ?? (ends.some(({ value }) => value === setup.farEnd) ? setup.farEnd : 'open')
  const plan = useMemo(() => ({ ...planFor(part?.stages ?? NO_STAGES), ...typed }), [part, typed])
  const possible = looks.length > 0 && plan.lowHz < plan.highHz
  const tolerances = held.document.tolerances ?? usualTolerances
  const earlier: Reflections | null = before ?? null
  const own = setup.file?.text ?? shown
  // A kept sweep brings what its own was.
  const { analyser: here } = usePreferences()
  const analyser = shown?.analyser ?? here
  const request = useMemo(
    (): AlongRequest | null =>
      possible && part
        ? {
            ...{ chain: part.chain, tolerances, plane: part.plane, farEnd, plan },
            sweep: own,
            ...{ before: earlier, analyser },
          }
        : null,
    [part, tolerances, farEnd, plan, own, earlier, analyser, possible],
  )
  const fitRequest = useMemo(
    (): LineFitRequest | null =>
      own && part
        ? { chain: part.chain, plane: part.plane, tolerances, farEnd, sweep: own, analyser }
        : null,
    [part, tolerances, farEnd, own, analyser],
  )
  const { result, last, problem } = useTask('alongLine', request)
  const change = (by: Partial<Setup>) => {
    const next = { ...setup, ...by }
    setups.set(chainId, next)
    setSetup(next)
  }
  return {
    ...{ kept, shown, before: before ?? null, file: setup.file, asThen, looks, look, farEnd, ends },
    ...{ plan, possible, setTyped: (by: typeof typed) => setTyped({ ...typed, ...by }) },
    stages: part?.stages ?? NO_STAGES,
    document: held.document,
    fitRequest,
    along: part ? (result ?? (problem === null ? last : null)) : null,
    problem:
      unread ??
      (shown && !part
        ? `This sweep was taken ${shown.place}, from where no line can be looked along: a tuner or an amplifier is behind it.`
        : problem),
    setAt: (at: string) => change({ at }),
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
