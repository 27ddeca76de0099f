import { useQuery } from '@tanstack/react-query'
import { lazy, Suspense, useMemo, useState } from 'react'
import { useNavigate } from 'react-router'
import { stationsQuery } from '../platform/api/queries.ts'
import { chainAddress } from '../editor/useChainAddress.ts'
import { placeCommands, showCommands } from './commands.ts'
import { Header } from './Header.tsx'
import { useKeys } from './keys.ts'
import { Tools } from './Tools.tsx'
import { useHelp } from './useHelp.ts'
import { TypedEarly } from '../ui/TypedEarly.tsx'

const Palette = lazy(() => import('./Palette.tsx'))

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
  const [sheet, setSheet] = useState<'find' | null>(null)
  const { data: stations = [], isLoading } = useQuery(stationsQuery)
  const navigate = useNavigate()
  const { open } = useHelp()
  const keys = useMemo(
    () => ({
      '/': () => setSheet('find'),
      'ctrl+k': () => setSheet('find'),
      '?': () => open(),
    }),
    [open],
  )
  useKeys(keys)
  return (
    <div className="flex min-h-full flex-col">
      <title>{`${title} · Salt Line`}</title>
      <Header
        stationId={stationId ?? (isLoading ? null : stations[0]?.id)}
        tools={<Tools onFind={keys['/']} onHelp={keys['?']} />}
      >
        <h1 className="sr-only">{title}</h1>
      </Header>
      <main className="flex-1">{children}</main>
      {sheet === 'find' && (
        <Suspense fallback={<TypedEarly />}>
          <Palette
            stationId={stationId ?? stations[0]?.id}
            go={(to) => void navigate(to)}
            onClose={() => setSheet(null)}
            commands={[
              ...stations.flatMap((station) =>
                station.chains.map(({ id, name }) => ({
                  id: `chain-${id}`,
                  group: station.name,
                  label: name,
                  run: () => void navigate(chainAddress(station.id, id)),
                })),
              ),
              ...placeCommands(stationId ?? stations[0]?.id, (to) => void navigate(to)),
              ...showCommands(open),
            ]}
          />
        </Suspense>
      )}
    </div>
  )
}
