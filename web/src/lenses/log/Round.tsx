import type { ChainDocument, ChannelDocument, Station } from '@saltline/contract'
import type { Chain } from '@saltline/core'
import { useQuery } from '@tanstack/react-query'
import { Printer } from 'lucide-react'
import { useMemo } from 'react'
import { Link, useSearchParams } from 'react-router'
import { noteRound, roundQuery, roundsQuery } from '../../api/logQueries.ts'
import type { Edit } from '../../chain/edits.ts'
import type { Selection } from '../../chain/selection.ts'
import { ChoiceField } from '../../parts/ChoiceField.tsx'
import { EntryForm } from './EntryForm.tsx'
import { clockText, dayText, placesOf } from './places.ts'
import { act } from '../../app/act.ts'
import { RoundTable } from './RoundTable.tsx'
import { WhereWent } from './WhereWent.tsx'

/** A round stays open so long after its last reading; the server's rule. */
const OPEN_MS = 3 * 3600 * 1000

export interface LogProps {
  station: Station
  chainId: string
  document: ChainDocument
  chain: Chain
  channel: ChannelDocument
  selection: Selection | null
  onSelect: (selection: Selection | null) => void
  onPick: (channelId: string, selection?: Selection) => void
  edit: (edit: Edit) => void
  /** Changes the address: which leaf, which round. */
  put: (change: Record<string, string | null>, replace?: boolean) => void
}

/** Readings that are taken together: enter, see them against the prediction, ask where the watts went. */
export function Round(props: LogProps) {
  const { station, chainId, document, chain, channel, selection, onSelect, onPick, edit, put } =
    props
  const [search] = useSearchParams()
  const { data: rounds, dataUpdatedAt } = useQuery(roundsQuery(chainId))
  const wanted = search.get('round')
  const newest = rounds?.[0]
  const current = rounds?.find(({ id }) => id === wanted) ?? newest
  const { data: round } = useQuery(roundQuery(current?.id))
  const places = useMemo(() => placesOf(document), [document])
  const usual = document.stages.findIndex((s) => s.kind === 'pad' && s.part === 'meter')
  const place =
    (selection?.kind === 'plane' ? places[selection.index] : undefined) ??
    places[Math.max(0, usual)]!
  const showRound = (id: string) => put({ round: id }, true)
  const open = newest && dataUpdatedAt - Date.parse(newest.lastAt) < OPEN_MS
  const readings = round?.readings
  return (
    <div className="grid gap-y-5 lg:grid-cols-[310px_minmax(0,1fr)] xl:grid-cols-[310px_minmax(0,1fr)_330px]">
      <section aria-label="Enter" className="px-5 py-3 lg:border-r lg:border-rule">
        <h2 className="mb-1.5 text-base font-bold">New reading</h2>
        <EntryForm
          station={station}
          chainId={chainId}
          document={document}
          chain={chain}
          channel={channel}
          places={places}
          place={place}
          onPlace={({ plane }) => onSelect({ kind: 'plane', index: plane })}
          onChannel={(id) => onPick(id)}
          last={readings?.at(-1)}
          open={open === true}
          onKept={({ roundId }) => showRound(roundId)}
        />
      </section>
      <section aria-label="Round" className="min-w-0 px-5 py-3 xl:border-r xl:border-rule">
        <div className="mb-2 flex flex-wrap items-end gap-2">
          {rounds && current && (
            <div className="min-w-56">
              <ChoiceField
                label="Round of readings"
                value={current.id}
                options={rounds.map(({ id, startedAt, readingCount, outsideCount }) => ({
                  value: id,
                  label: `${dayText(startedAt)}, ${clockText(startedAt)}: ${readingCount} readings${outsideCount > 0 ? `, ${outsideCount} outside` : ''}`,
                }))}
                onChange={showRound}
              />
            </div>
          )}
          {current && (
            <Link
              className="button"
              to={`/station/${station.id}/chain/${chainId}/round/${current.id}`}
            >
              <Printer size={14} aria-hidden /> Report
            </Link>
          )}
        </div>
        <p className="mb-2 text-xs text-muted">
          {!newest
            ? 'The first reading begins a round.'
            : open
              ? 'The round is open: whoever reads on this chain now, at either end, meets here.'
              : 'A reading that is kept now begins a new round.'}
        </p>
        {readings && <RoundTable readings={readings} station={station} document={document} />}
        {round && (
          <label className="mt-3 block max-w-xl text-xs text-muted">
            Note on the round
            <input
              key={round.id}
              className="field mt-0.5 text-sm"
              defaultValue={round.note}
              maxLength={2000}
              onBlur={({ target }) => {
                if (target.value !== round.note)
                  void act(async () => {
                    await noteRound(round.id, target.value)
                  })
              }}
            />
          </label>
        )}
      </section>
      <div className="px-5 py-3 lg:col-start-2 xl:col-start-3">
        {readings && readings.length > 0 && (
          <WhereWent
            station={station}
            document={document}
            chain={chain}
            readings={readings}
            edit={edit}
            onNext={(plane, frequencyHz) => {
              const next = document.channels.find((each) => each.frequencyHz === frequencyHz)
              onPick(next?.id ?? channel.id, { kind: 'plane', index: plane })
            }}
          />
        )}
      </div>
    </div>
  )
}
