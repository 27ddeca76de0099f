import { type Alternative, MOST_ALTERNATIVES, newId } from '@saltline/contract'
import { type SweepLoad, usualTolerances } from '@saltline/core'
import { useQueries } from '@tanstack/react-query'
import { act } from '../../platform/act.ts'
import { useCallback, useEffect, useMemo, useState } from 'react'
import { useSearchParams } from 'react-router'
import { useRanges } from '../../compute/ranges.ts'
import { useTask } from '../../compute/useTask.ts'
import { useLead } from '../../editor/lead.ts'
import type { LensProps } from '../../editor/lens.ts'
import {
  addAlternative,
  alternativesOf,
  applyAlternative,
  changeAlternative,
  expenseOf,
  removeAlternative,
  sweepOf,
  takeAlternative,
} from '../../model/alternatives.ts'
import { chainOfDocument, operatingPoint } from '../../model/answers.ts'
import { sweepQuery } from '../../platform/api/queries.ts'
import { Problem } from '../../ui/Problem.tsx'
import { AlternativesTable, type TableRow } from './AlternativesTable.tsx'
import { Chosen } from './Chosen.tsx'
import { Curves } from './Curves.tsx'
import { FarStation } from './FarStation.tsx'
import { NewAlternative, type What } from './NewAlternative.tsx'
import { Parts } from './Parts.tsx'
import { Planner } from './Planner.tsx'
import { beatenBy, verdictText } from './verdict.ts'

/** What would another cable, length, tuner, place or power buy, and at what price? */
export function CompareLens(props: LensProps) {
  const lead = useLead()
  const { station, document, channel, edit, put, onPick, onShow } = props
  const alternatives = alternativesOf(document)
  const [search] = useSearchParams()
  const asked = search.get('alternative')
  const chosen = alternatives.find(({ id }) => id === asked) ?? null
  const ranges = useRanges()
  const choose = (id: string | null) => put({ alternative: id }, true)
  const { sides, rows, problem, working, parts } = useRows(props, alternatives)

  const [hovered, setHovered] = useState<string | null | undefined>(undefined)
  const shownId = hovered === undefined ? (chosen?.id ?? null) : hovered
  const shown = sides.find(({ id }) => id !== null && id === shownId) ?? null
  useEffect(() => {
    onShow(shown && { document: shown.document, chain: shown.chain })
    return () => onShow(null)
  }, [shown, onShow])

  const make = (alternative: Alternative) => {
    edit(addAlternative(alternative))
    choose(alternative.id)
  }
  const change = (id: string, part: Partial<Alternative>) =>
    edit(changeAlternative(id, (old) => ({ ...old, ...part })))
  const contenders = rows.flatMap(({ id, name, row, expense }) =>
    id !== null && row ? [{ name, row, expense }] : [],
  )
  return (
    <div className="grid grid-cols-1 three:grid-cols-[minmax(0,1fr)_340px]">
      <div className="min-w-0 space-y-4 px-5 py-4 three:border-r three:border-rule">
        {lead(
          <p role="status" className="min-h-6 text-[18px] leading-snug">
            {alternatives.length === 0
              ? 'What would another cable, length, tuner or power bring? Make an alternative, and it stands beside the chain.'
              : contenders.length > 0
                ? verdictText(contenders, document.channels, station.currency)
                : working && 'Solving the alternatives…'}
          </p>,
        )}
        <Problem text={problem} />
        <AlternativesTable
          rows={rows}
          channels={document.channels}
          channel={channel}
          station={station}
          chosen={chosen?.id ?? null}
          onChoose={choose}
          onHover={setHovered}
          onPick={onPick}
        />
        {alternatives.length > 0 && (
          <label className="flex min-h-6 w-fit items-center gap-2 text-sm">
            <input
              type="checkbox"
              className="accent-tide"
              checked={ranges.on}
              onChange={({ target }) => ranges.setOn(target.checked)}
            />
            say whether each difference is larger than what is known of the chain
          </label>
        )}
        <NewAlternative
          {...props}
          chosen={chosen}
          asking={askingOf(search)}
          onAsk={(asking) =>
            put({ ask: asking?.what ?? null, section: asking?.stageId ?? null }, true)
          }
          onMade={make}
          onAdded={(changes) =>
            chosen && change(chosen.id, { changes: [...chosen.changes, ...changes] })
          }
        />
        <div className="grid gap-6 border-t border-rule pt-3 three:grid-cols-2">
          {parts && (
            <Parts
              document={document}
              parts={parts}
              onCable={(stageId) => put({ ask: 'cable', section: stageId }, true)}
            />
          )}
          <Curves
            sides={sides}
            channel={channel}
            chosen={Math.max(
              0,
              sides.findIndex(({ id }) => id === (chosen?.id ?? null)),
            )}
            asTable={props.asTable}
            onToggleTable={props.onToggleTable}
          />
        </div>
        <Planner {...props} onMade={make} full={alternatives.length >= MOST_ALTERNATIVES} />
        <FarStation {...props} alternative={shown} />
      </div>
      <div className="border-rule px-5 py-4 not-three:border-t">
        {chosen ? (
          <Chosen
            key={chosen.id}
            alternative={chosen}
            applied={applyAlternative(document, chosen)}
            expense={expenseOf(document, chosen, station)}
            document={document}
            station={station}
            onChange={(part) => change(chosen.id, part)}
            onApply={() => {
              edit(takeAlternative(chosen.id))
              choose(null)
              void act(() =>
                Promise.resolve({ said: `${chosen.name} is applied: it is the chain now.` }),
              )
            }}
            onCopy={
              alternatives.length < MOST_ALTERNATIVES
                ? () => make({ ...chosen, id: newId(), name: `${chosen.name}, copy`.slice(0, 80) })
                : null
            }
            onRemove={() => {
              edit(removeAlternative(chosen.id))
              choose(null)
            }}
          />
        ) : (
          <p className="text-sm text-muted">
            The spine shows the chain as it stands. Choose an alternative to see it there, with the
            chain as an outline; to change its parts, or to apply it. All of it can be undone.
          </p>
        )}
      </div>
    </div>
  )
}

const askingOf = (search: URLSearchParams): { what: What; stageId: string | null } | null => {
  const what = search.get('ask')
  return what === 'cable' ||
    what === 'length' ||
    what === 'tuner' ||
    what === 'power' ||
    what === 'part'
    ? { what, stageId: search.get('section') }
    : null
}

/** The chain as it stands and its alternatives, solved beside each other. */
function useRows(
  { station, document, chain, channel }: LensProps,
  alternatives: readonly Alternative[],
) {
  const { on: ranges } = useRanges()
  const applied = useMemo(
    () =>
      alternatives.map((alternative) => ({
        alternative,
        ...applyAlternative(document, alternative),
      })),
    [alternatives, document],
  )
  const own = sweepOf(document.load)
  const others = [
    ...new Set(
      applied.flatMap((each) => {
        const sweep = sweepOf(each.document.load)
        return sweep === undefined || sweep === own ? [] : [sweep]
      }),
    ),
  ].join(' ')
  const sweeps = useQueries({
    queries: others.split(' ').map((id) => sweepQuery(id || undefined)),
    // The same function gives the same map until a sweep arrives.
    combine: useCallback(
      (results: { data: SweepLoad | undefined }[]) =>
        new Map(others.split(' ').map((id, k) => [id, results[k]?.data])),
      [others],
    ),
  })
  const sides = useMemo(
    () => [
      { id: null as string | null, name: 'As it stands', document, chain },
      ...applied.flatMap(({ alternative: { id, name }, document: changed }) => {
        const sweep = sweepOf(changed.load)
        const side =
          sweep === own && changed.load.kind === document.load.kind && sweep !== undefined
            ? { transmitter: changed.transmitter, stages: changed.stages, load: chain.load }
            : chainOfDocument(changed, sweep === undefined ? undefined : sweeps.get(sweep))
        return side ? [{ id, name, document: changed, chain: side }] : []
      }),
    ],
    [document, chain, applied, own, sweeps],
  )
  const request = useMemo(
    () => ({
      candidates: sides.map((side) => ({ document: side.document, chain: side.chain })),
      channelId: channel.id,
      tolerances: ranges ? (document.tolerances ?? usualTolerances) : null,
    }),
    [sides, channel.id, ranges, document.tolerances],
  )
  const { run, last } = useTask('compare', request)
  const result = last?.rows.length === sides.length ? last : null
  const bare = sides.map((side, k) => ({
    id: side.id,
    name: side.name,
    document: side.document,
    row: result?.rows[k],
    expense: expenseOf(document, alternatives.find(({ id }) => id === side.id) ?? null, station),
    misfits: applied.find(({ alternative }) => alternative.id === side.id)?.misfits ?? [],
  }))
  const contenders = bare.flatMap(({ name, row, expense }) => (row ? [{ name, row, expense }] : []))
  const rows: TableRow[] = bare.map((row) => {
    const contender = contenders.find(
      ({ name, expense }) => name === row.name && expense === row.expense,
    )
    return {
      ...row,
      beatenBy:
        row.id !== null && contender ? beatenBy(contender, contenders, document.channels) : null,
    }
  })
  const points = useMemo(
    () =>
      sides.map((side) => ({
        ...side,
        at: operatingPoint(
          side.document.transmitter,
          side.document.channels.find(({ id }) => id === channel.id) ?? channel,
        ),
      })),
    [sides, channel],
  )
  return {
    sides: points,
    rows,
    parts: result?.parts ?? null,
    working: run?.state === 'running',
    problem: run?.state === 'problem' ? run.message : null,
  }
}
