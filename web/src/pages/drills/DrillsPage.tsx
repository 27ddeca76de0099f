import { exercises, faultKinds, type FaultKind, type Level, levels } from '@saltline/core'
import { useQuery } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { call } from '../../platform/api/client.ts'
import { stationsQuery } from '../../platform/api/queries.ts'
import { setPreferences, usePreferences } from '../../platform/preferences.ts'
import { newSeed, progressOf, readAttempts } from '../../model/attempts.ts'
import { levelNames } from '../../model/drillWords.ts'
import { Page } from '../../shell/Page.tsx'
import { TextField } from '../../ui/TextField.tsx'

/** What a kind of fault is called where it does not give the drill away: in the list of what was practised. */
const kindNames: Readonly<Record<FaultKind, string>> = {
  reduced: 'reduced power',
  drifted: 'foldback from a drifted antenna',
  wet: 'wet or aged cable',
  connector: 'bad connector',
  swapped: 'cable swapped for another',
  kinked: 'kinked cable',
  water: 'water at one place',
  gap: 'joint that does not touch',
  scale: 'wrong scale',
  averaging: 'meter that averages',
  hiding: 'tuner that hides a bad antenna',
  common: 'common-mode current',
  misread: 'misread figure',
  none: 'nothing wrong at all',
}

/** All drills, and how far one has come with them. */
export function DrillsPage() {
  const { by } = usePreferences()
  const { data: stations = [] } = useQuery(stationsQuery)
  const station = stations[0]
  const { data: kept = [] } = useQuery({
    queryKey: ['attempts', station?.id],
    queryFn: () =>
      call('GET /stations/:stationId/attempts', { params: { stationId: station!.id } }),
    enabled: station !== undefined,
  })
  const progress = useMemo(() => {
    const own = readAttempts()
    const known = new Set(own.map(({ id }) => id))
    const others = kept.filter((each) => each.by === by && !known.has(each.id))
    return progressOf([...own, ...others])
  }, [kept, by])
  const said = (id: string): string => {
    const p = progress.get(id)
    return p ? `${p.right} of ${p.tries}, best ${p.best}` : 'not tried yet'
  }
  const [seeds] = useState(() => exercises.map(() => newSeed()))
  return (
    <Page title="Drills">
      <div className="mx-auto grid max-w-6xl gap-x-10 gap-y-6 px-5 py-5 lg:grid-cols-2">
        <section aria-label="Find the fault">
          <h2 className="text-xl font-bold">Find the fault</h2>
          <p className="mt-1 text-muted">
            A station is wrong somewhere. Put the meter in, key, read; say what it is and where.
            Nothing here can burn.
          </p>
          <Begin />
          <table className="mt-4 w-full text-sm">
            <caption className="pb-1 text-left text-muted">What you have found so far</caption>
            <tbody>
              {faultKinds.map((kind) => (
                <tr key={kind} className="border-t border-rule">
                  <th scope="row" className="py-1 text-left font-normal">
                    {kindNames[kind]}
                  </th>
                  <td className="text-right text-muted tabular-nums">{said(kind)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
        <section aria-label="Hands on">
          <h2 className="text-xl font-bold">Hands on</h2>
          <p className="mt-1 text-muted">
            One thing, done by hand, with a goal, a time and a limit on key-down time.
          </p>
          <ul className="mt-3">
            {exercises.map(({ id, title, goal }, i) => (
              <li key={id} className="border-t border-rule py-2.5">
                <div className="flex items-baseline justify-between gap-3">
                  <Link className="link font-bold" to={`/drills/${id}/${seeds[i]}`}>
                    {title}
                  </Link>
                  <span className="shrink-0 text-sm text-muted tabular-nums">{said(id)}</span>
                </div>
                <p className="text-sm text-muted">{goal}</p>
              </li>
            ))}
          </ul>
        </section>
        <section aria-label="Your name" className="lg:col-span-2 lg:max-w-lg">
          <TextField
            label="Your name, so that attempts are kept with the station too"
            value={by}
            optional
            most={40}
            onChange={(name) => setPreferences({ by: name })}
          />
          <p className="mt-1 text-xs text-muted">
            {by && station
              ? `Kept in this browser and at ${station.name}.`
              : 'Without a name they are kept in this browser alone.'}
          </p>
        </section>
      </div>
    </Page>
  )
}

/** Level and seed of a drill: a seed that is read out gives the whole club the same one. */
function Begin() {
  const navigate = useNavigate()
  const [level, setLevel] = useState<Level>(1)
  const [seed, setSeed] = useState(newSeed)
  return (
    <form
      className="mt-3 space-y-2.5"
      aria-label="Begin a drill"
      onSubmit={(event) => {
        event.preventDefault()
        void navigate(`/drills/find/${level}/${encodeURIComponent(seed.trim())}`)
      }}
    >
      <div role="radiogroup" aria-label="Level" className="space-y-1">
        {levels.map((each) => (
          <label key={each} className="flex min-h-6 items-center gap-2">
            <input
              type="radio"
              name="level"
              className="size-4 accent-tide"
              checked={each === level}
              onChange={() => setLevel(each)}
            />
            {each} · {levelNames[each]}
          </label>
        ))}
      </div>
      <div className="flex flex-wrap items-end gap-3">
        <div className="w-44">
          <TextField label="Seed" value={seed} most={40} onChange={setSeed} />
        </div>
        <button type="submit" className="button button-main">
          Begin
        </button>
        <p className="pb-1.5 text-xs text-muted">The same seed is the same drill for everyone.</p>
      </div>
    </form>
  )
}
