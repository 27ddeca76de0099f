import { CHAIN_DOCUMENT_VERSION, newId } from '@saltline/contract'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Navigate, useNavigate } from 'react-router'
import { createChain, createStation, stationsQuery } from '../api/queries.ts'
import { newStage } from '../chain/edits.ts'
import { chainAddress } from '../chain/useChainAddress.ts'
import { TextField } from '../parts/TextField.tsx'
import { Header } from './Header.tsx'
import { Trouble } from './Trouble.tsx'

/** Goes straight to the first chain there is; without one, begins a station. */
export function HomePage() {
  const { data: stations, error } = useQuery(stationsQuery)
  if (error) return <Trouble error={error} />
  if (!stations) return null
  const station = stations.find(({ chains }) => chains.length > 0)
  if (station) return <Navigate to={chainAddress(station.id, station.chains[0]!.id)} replace />
  return <FirstStation stationId={stations[0]?.id} />
}

function FirstStation({ stationId }: { stationId: string | undefined }) {
  const [name, setName] = useState('My station')
  const [problem, setProblem] = useState<string | null>(null)
  const navigate = useNavigate()
  const begin = async () => {
    try {
      const id = stationId ?? (await createStation({ name })).id
      const chain = await createChain(id, firstChain())
      await navigate(chainAddress(id, chain.id))
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error))
    }
  }
  return (
    <>
      <Header />
      <main className="mx-auto max-w-md space-y-4 px-5 py-16">
        <h1 className="text-xl font-bold">No chain here yet</h1>
        <p>
          Begin with a 100 W transmitter, one length of coax and an antenna at SWR 1.5; everything
          about it can then be changed.
        </p>
        {!stationId && <TextField label="Name of the station" value={name} onChange={setName} />}
        <button type="button" className="button button-main" onClick={() => void begin()}>
          Begin
        </button>
        {problem && (
          <p role="alert" className="text-danger">
            ⚠ {problem}
          </p>
        )}
      </main>
    </>
  )
}

/** The plainest chain that has an answer. */
function firstChain() {
  const empty = {
    version: CHAIN_DOCUMENT_VERSION,
    name: 'First chain',
    transmitter: {
      name: 'Transmitter',
      ratedW: 100,
      behaviour: 'levelled',
      foldback: [
        [1.5, 1],
        [3, 0.5],
        [10, 0.1],
      ] as [number, number][],
    },
    stages: [],
    load: { kind: 'swr', name: 'Antenna', swr: 1.5 },
    channels: [{ id: newId(), frequencyHz: 7.1e6, mode: 'voice', powerW: 100 }],
  } as const
  const document = {
    ...empty,
    transmitter: { ...empty.transmitter },
    channels: [...empty.channels],
  }
  const cable = newStage('line', { ...document, stages: [] })
  return { ...document, stages: [cable.kind === 'line' ? { ...cable, lengthM: 20 } : cable] }
}
