import { useQuery } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { useNavigate } from 'react-router'
import { stationsQuery } from '../api/queries.ts'
import { chainAddress } from '../chain/useChainAddress.ts'
import { placeDeeds, showDeeds } from '../chain/deeds.ts'
import { Header } from './Header.tsx'
import { Help } from './Help.tsx'
import { useKeys } from './keys.ts'
import { Palette } from './Palette.tsx'
import { Tools } from './Tools.tsx'

/** The frame of every page beside a chain: the same head, find and help. */
export function Page({
  title,
  stationId,
  children,
}: {
  title: string
  stationId?: string | undefined
  children: React.ReactNode
}) {
  const [sheet, setSheet] = useState<'find' | 'help' | null>(null)
  const { data: stations = [] } = useQuery(stationsQuery)
  const navigate = useNavigate()
  const keys = useMemo(
    () => ({
      '/': () => setSheet('find'),
      'ctrl+k': () => setSheet('find'),
      '?': () => setSheet('help'),
    }),
    [],
  )
  useKeys(keys)
  return (
    <div className="flex min-h-full flex-col">
      <Header
        stationId={stationId ?? stations[0]?.id}
        tools={<Tools onFind={keys['/']} onHelp={keys['?']} />}
      >
        <h1 className="sr-only">{title}</h1>
      </Header>
      <main className="flex-1">{children}</main>
      {sheet === 'find' && (
        <Palette
          onClose={() => setSheet(null)}
          deeds={[
            ...stations.flatMap((station) =>
              station.chains.map(({ id, name }) => ({
                id: `chain-${id}`,
                group: station.name,
                label: name,
                run: () => void navigate(chainAddress(station.id, id)),
              })),
            ),
            ...placeDeeds(stationId ?? stations[0]?.id, (to) => void navigate(to)),
            ...showDeeds(() => setSheet('help')),
          ]}
        />
      )}
      {sheet === 'help' && <Help onClose={() => setSheet(null)} />}
    </div>
  )
}
