import { act } from '../../platform/act.ts'
import { errorText } from '../../platform/errorText.ts'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { deleteStation, importStation } from '../../platform/api/queries.ts'
import { chainAddress } from '../../editor/useChainAddress.ts'
import { type ReadStationFile, readStationFile } from '../../model/stationFile.ts'

/** A file that was chosen, and what is in it. */
type Chosen = ReadStationFile & { blob: File }

const count = (n: number, noun: string): string => `${n} ${noun}${n === 1 ? '' : 's'}`

/** A station that was saved as a file: shown before it is added, and taken back with one press. */
export function StationFromFile() {
  const [read, setRead] = useState<Chosen | null>(null)
  const [busy, setBusy] = useState<'reading' | 'adding' | null>(null)
  const choose = async (blob: File) => {
    setBusy('reading')
    setRead({ ...(await readStationFile(blob)), blob })
    setBusy(null)
  }
  const navigate = useNavigate()
  const add = async (blob: File) => {
    setBusy('adding')
    try {
      const station = await importStation(blob)
      const [chain] = station.chains
      await navigate(chain ? chainAddress(station.id, chain.id) : '/')
      await act(() =>
        Promise.resolve({
          said: `“${station.name}” is added.`,
          undo: async () => {
            await deleteStation(station.id)
            await navigate('/')
          },
        }),
      )
    } catch (error) {
      setRead({ ok: false, message: errorText(error), blob })
    } finally {
      setBusy(null)
    }
  }
  return (
    <section aria-label="From a file" className="rounded-lg border border-rule p-4 text-sm">
      <h2 className="mb-1 font-bold">Or bring one in from a file</h2>
      <input
        type="file"
        accept=".json"
        aria-label="Station file"
        className="file-input"
        onChange={(event) => {
          const [blob] = event.target.files ?? []
          if (blob) void choose(blob)
        }}
      />
      {busy && (
        <p role="status" className="mt-2 text-faint">
          {busy === 'reading' ? 'The file is being read…' : 'The station is being added…'}
        </p>
      )}
      {read && !read.ok && (
        <p role="alert" className="mt-2 text-danger">
          ⚠ {read.message} Nothing was imported.
        </p>
      )}
      {read?.ok && (
        <>
          <p className="mt-2">
            Adds <b>{read.file.station.name}</b> with {count(read.file.chains.length, 'chain')} (
            {read.file.chains.map(({ document }) => document.name).join(', ')}),{' '}
            {count(read.file.antennas.length, 'antenna')}, {read.file.gear.length} of its own gear
            and {count(read.readingCount, 'reading')}. Nothing that is here is replaced.
          </p>
          <button
            type="button"
            className="button button-main mt-2"
            disabled={busy !== null}
            onClick={() => void add(read.blob)}
          >
            Add this station
          </button>
        </>
      )}
    </section>
  )
}
