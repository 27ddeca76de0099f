import { chainAddress } from '../../editor/useChainAddress.ts'
import {
  clockText,
  dayText,
  type FarEnd,
  placesOf,
  type Reading,
  SESSION_GAP_MS,
} from '@saltline/contract'
import { useQuery } from '@tanstack/react-query'
import { Printer } from 'lucide-react'
import { useMemo, useState } from 'react'
import { Link, useSearchParams } from 'react-router'
import { runsQuery } from '../../platform/api/runQueries.ts'
import { noteRound, roundQuery, roundsQuery } from '../../platform/api/logQueries.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { EntryForm } from './EntryForm.tsx'
import { act } from '../../platform/act.ts'
import { usePresence } from '../../platform/api/presence.ts'
import { usePreferences } from '../../platform/preferences.ts'
import { RoundTable } from './RoundTable.tsx'
import { TwoEnds } from './TwoEnds.tsx'
import { WhereWent } from './WhereWent.tsx'
import type { LensProps } from '../../editor/lens.ts'

const NONE: Reading[] = []

/** Readings that are taken together: enter, see them against the prediction, ask where the watts went. */
export function Round(props: LensProps) {
  const { station, chainId, document, chain, channel, selection, onSelect, onPick, edit, put } =
    props
  const [search] = useSearchParams()
  const { data: rounds, dataUpdatedAt } = useQuery(roundsQuery(chainId))
  const wanted = search.get('round')
  const newest = rounds?.[0]
  const current = rounds?.find(({ id }) => id === wanted) ?? newest
  const { data: round } = useQuery(roundQuery(current?.id))
  const { data: runs } = useQuery(runsQuery(chainId))
  const run = runs?.find(({ roundId }) => roundId !== undefined && roundId === current?.id)
  const places = useMemo(() => placesOf(document), [document])
  const usual = document.stages.findIndex((s) => s.kind === 'pad' && s.part === 'meter')
  const place =
    (selection?.kind === 'plane' ? places[selection.index] : undefined) ??
    places[Math.max(0, usual)]!
  const showRound = (id: string) => put({ round: id }, true)
  const open = newest && dataUpdatedAt - Date.parse(newest.lastAt) < SESSION_GAP_MS
  const readings = round?.readings
  const { by } = usePreferences()
  /** Power for the readings that follow on a channel, where it is not the channel's own, W. */
  const [setting, setSetting] = useState<{ channelId: string; powerW: number } | null>(null)
  /** What the readings that follow are taken into, where that was said. */
  const [farEnd, setFarEnd] = useState<FarEnd | null>(null)
  const others = usePresence(chainId, { by, channelId: channel.id, before: place.before })
  return (
    <div className="grid gap-y-5 two:grid-cols-[310px_minmax(0,1fr)] three:grid-cols-[310px_minmax(0,1fr)_330px]">
      <section aria-label="Enter" className="px-5 py-3 two:border-r two:border-rule">
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
          powerW={setting?.channelId === channel.id ? setting.powerW : null}
          onPower={(channelId, powerW) =>
            setSetting(powerW === null ? null : { channelId, powerW })
          }
          farEnd={farEnd ?? (open ? readings?.at(-1)?.farEnd : undefined) ?? 'antenna'}
          onFarEnd={setFarEnd}
          last={readings?.at(-1)}
          open={open === true}
          onKept={({ roundId }) => showRound(roundId)}
        />
      </section>
      <section
        aria-label="Measurement session"
        className="min-w-0 px-5 py-3 three:border-r three:border-rule"
      >
        <div className="mb-2 flex flex-wrap items-end gap-2">
          {rounds && current && (
            <div className="min-w-56">
              <ChoiceField
                label="Measurement session"
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
            ? 'The first reading starts a measurement session.'
            : open
              ? 'The session is open: readings taken on this chain now, at either end, join it.'
              : 'A reading saved now starts a new session.'}
        </p>
        {run && (
          <p className="mb-2 text-sm">
            Taken on a run sheet:{' '}
            <Link className="link" to={`${chainAddress(station.id, chainId, 'run')}?run=${run.id}`}>
              {run.title}
            </Link>
          </p>
        )}
        <TwoEnds
          {...props}
          readings={readings ?? NONE}
          open={open === true && current === newest}
          others={others}
        />
        {readings && <RoundTable readings={readings} station={station} document={document} />}
        {round && (
          <label className="mt-3 block max-w-xl text-xs text-muted">
            Note on the session
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
      <div className="px-5 py-3 two:col-start-2 three:col-start-3">
        {readings && readings.length > 0 && (
          <WhereWent
            key={current?.id}
            roundId={current?.id ?? ''}
            station={station}
            chainId={chainId}
            document={document}
            chain={chain}
            readings={readings}
            edit={edit}
            onNext={({ plane, channelId = channel.id, setW, farEnd: advised }) => {
              setSetting(setW === null ? null : { channelId, powerW: setW })
              setFarEnd(advised)
              onPick(channelId, { kind: 'plane', index: plane })
            }}
          />
        )}
      </div>
    </div>
  )
}
