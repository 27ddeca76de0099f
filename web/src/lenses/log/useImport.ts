/** Readings of a table on their way into the log: which are there already, and the keeping of the rest. */
import type { ImportedReading } from '@saltline/contract'
import { useEffect, useState } from 'react'
import type { ReadTable } from '@saltline/contract/table'
import {
  addReadings,
  alreadyHere,
  deleteReadings,
  type OfChain,
} from '../../platform/api/logQueries.ts'
import { errorText } from '../../platform/errorText.ts'
import { actOnRecord } from '../../platform/wayBack.ts'

/** Nothing is sent before every line is understood. */
const ready = (table: ReadTable | null): table is ReadTable =>
  table !== null && table.problems.length === 0 && table.unknown.length === 0 && table.count > 0

export function useImport(table: ReadTable | null, onDone: () => void) {
  const [looked, setLooked] = useState<{ of: ReadTable; already: Map<string, Set<number>> } | null>(
    null,
  )
  const [again, setAgain] = useState(false)
  const [kept, setKept] = useState<number | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  useEffect(() => {
    if (!ready(table)) return
    let stale = false
    void (async () => {
      try {
        const already = await alreadyHere(groupsOf(table))
        if (stale) return
        setLooked({ of: table, already })
        setProblem(null)
      } catch (error) {
        if (!stale) setProblem(errorText(error))
      }
    })()
    return () => {
      stale = true
    }
  }, [table])
  const already = looked?.of === table ? looked?.already : undefined
  const here = already ? [...already.values()].reduce((sum, { size }) => sum + size, 0) : 0
  const toKeep =
    already && table
      ? groupsOf(table).map(({ chainId, items }) => ({
          chainId,
          items: again ? items : items.filter((_, i) => !already.get(chainId)?.has(i)),
        }))
      : []
  const count = toKeep.reduce((sum, { items }) => sum + items.length, 0)
  const keep = async () => {
    setProblem(null)
    setKept(0)
    try {
      const added = await addReadings(toKeep, setKept)
      onDone()
      await actOnRecord(() =>
        Promise.resolve({
          said: `${readingsText(count)} saved.`,
          undo: () => deleteReadings(added),
        }),
      )
    } catch (error) {
      setKept(null)
      setProblem(errorText(error))
    }
  }
  return {
    /** Whether it is being asked which readings are there already. */
    looking: ready(table) && !already && problem === null,
    /** How many of the table are in the log. */
    here,
    /** Whether those are taken once more. */
    again,
    setAgain,
    /** How many would be kept. */
    count,
    /** How many are kept so far, while it goes on. */
    kept,
    keep,
    problem,
  }
}

const groupsOf = ({ chains }: ReadTable): OfChain<ImportedReading>[] =>
  chains.map(({ chainId, readings: items }) => ({ chainId, items }))

export const readingsText = (count: number): string =>
  count === 1 ? '1 reading' : `${count.toLocaleString('en-GB')} readings`
