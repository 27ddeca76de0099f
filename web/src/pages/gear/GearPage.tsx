import type { Station } from '@saltline/contract'
import { useQuery } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { useParams, useSearchParams } from 'react-router'
import { stationQuery } from '../../platform/api/queries.ts'
import { cableChoices } from '../../model/cableFacts.ts'
import { Page } from '../../shell/Page.tsx'
import { Trouble } from '../../shell/Trouble.tsx'
import { Tabs } from '../../ui/Tabs.tsx'
import { CableDetail } from './CableDetail.tsx'
import { CableTable } from './CableTable.tsx'
import { Identify } from './Identify.tsx'
import { InstrumentList } from './InstrumentList.tsx'
import { PartTable } from './PartTable.tsx'
import { SetList } from './SetList.tsx'
import { OwnCable } from './OwnCable.tsx'
import { ThingList } from './ThingList.tsx'

export function GearPage() {
  const { stationId } = useParams() as { stationId: string }
  const { data: station, error } = useQuery(stationQuery(stationId))
  const [search] = useSearchParams()
  const shown = kinds.find(({ kind }) => kind === search.get('kind'))?.kind ?? 'cables'
  if (error) return <Trouble error={error} />
  return (
    <Page title="Gear" stationId={stationId}>
      <Tabs
        name="Kinds of gear"
        tabs={kinds.map(({ kind, label }) => ({
          to: kind === 'cables' ? '?' : `?kind=${kind}`,
          label,
          current: shown === kind,
        }))}
      />
      {station && shown === 'cables' && <Cables station={station} />}
      {shown === 'parts' && <PartTable />}
      {station && shown === 'sets' && <SetList station={station} />}
      {station && shown === 'instruments' && <InstrumentList station={station} />}
      {station && shown === 'things' && <ThingList station={station} />}
    </Page>
  )
}

const kinds = [
  { kind: 'cables', label: 'Cables' },
  { kind: 'parts', label: 'Connectors and other parts' },
  { kind: 'sets', label: 'Radios, amplifiers, tuners' },
  { kind: 'instruments', label: 'Instruments' },
  { kind: 'things', label: 'Things' },
] as const

/** All cables there are: find, compare, look closely, add one's own. */
function Cables({ station }: { station: Station }) {
  const [search, setSearch] = useSearchParams()
  const rows = useMemo(() => cableChoices(station), [station])
  const [sheet, setSheet] = useState<'identify' | 'own' | null>(null)
  const [frequencyHz, setFrequencyHz] = useState(14.2e6)
  const compared = (search.get('with') ?? '').split(' ').filter(Boolean)
  const current =
    rows.find(({ id }) => id === search.get('cable')) ?? rows.find(({ id }) => id === 'foam-7')!
  const put = (change: Record<string, string>) =>
    setSearch(
      (old) =>
        new URLSearchParams(
          [...Object.entries({ ...Object.fromEntries(old), ...change })].filter(([, v]) => v),
        ),
      { replace: true },
    )
  const pick = (id: string) => put({ cable: id })
  const toggle = (id: string) =>
    put({
      with: (compared.includes(id)
        ? compared.filter((c) => c !== id)
        : [...compared, id].slice(-3)
      ).join(' '),
    })
  return (
    <div className="grid border-t border-rule lg:h-[calc(100vh-83px)] lg:grid-cols-[minmax(0,1fr)_minmax(480px,44%)]">
      <section aria-label="Cables" className="flex min-h-0 flex-col border-rule lg:border-r">
        <CableTable
          rows={rows}
          current={current.id}
          compared={compared}
          frequencyHz={frequencyHz}
          onFrequency={setFrequencyHz}
          onPick={pick}
          onCompare={toggle}
          onIdentify={() => setSheet('identify')}
          onOwn={() => setSheet('own')}
        />
      </section>
      <CableDetail
        key={current.id}
        row={current}
        others={rows.filter(({ id }) => compared.includes(id) && id !== current.id)}
        station={station}
        onCopied={pick}
      />
      {sheet === 'identify' && (
        <Identify
          onClose={() => setSheet(null)}
          onPick={(id) => {
            pick(id)
            setSheet(null)
          }}
        />
      )}
      {sheet === 'own' && (
        <OwnCable
          stationId={station.id}
          onClose={() => setSheet(null)}
          onAdded={(id) => {
            pick(id)
            setSheet(null)
          }}
        />
      )}
    </div>
  )
}
