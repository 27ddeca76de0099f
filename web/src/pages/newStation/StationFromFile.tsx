import { act } from '../../platform/act.ts'
import { errorText } from '../../platform/errorText.ts'
import { type StationFile, stationFileSchema } from '@saltline/contract'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { deleteStation, importStation } from '../../platform/api/queries.ts'
import { chainAddress } from '../../editor/useChainAddress.ts'

type Read = { ok: true; file: StationFile } | { ok: false; message: string }

/** Reads a station file; the first thing wrong with it is named by its place. */
function readStationFile(text: string): Read {
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch {
    // How every file of SQLite begins.
    return {
      ok: false,
      message: text.startsWith('SQLite format 3')
        ? 'This is a backup of a whole database: bring it in under “Back up and restore” on a station’s page.'
        : 'This is no station file: it is not JSON. Choose one that was saved with “Save the station as a file”.',
    }
  }
  const parsed = stationFileSchema.safeParse(data)
  if (parsed.success) return { ok: true, file: parsed.data }
  const [first] = parsed.error.issues
  return {
    ok: false,
    message: `${first!.message} (at ${first!.path.join(' › ') || 'the file itself'})`,
  }
}

const count = (n: number, noun: string): string => `${n} ${noun}${n === 1 ? '' : 's'}`

/** A station that was saved as a file: shown before it is added, and taken back with one press. */
export function StationFromFile() {
  const [read, setRead] = useState<Read | null>(null)
  const navigate = useNavigate()
  const add = async (file: StationFile) => {
    try {
      const station = await importStation(file)
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
      setRead({ ok: false, message: errorText(error) })
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
        onChange={(event) =>
          void event.target.files?.[0]?.text().then((text) => setRead(readStationFile(text)))
        }
      />
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
            and {count(read.file.log.readings.length, 'reading')}. Nothing that is here is replaced.
          </p>
          <button
            type="button"
            className="button button-main mt-2"
            onClick={() => void add(read.file)}
          >
            Add this station
          </button>
        </>
      )}
    </section>
  )
}
