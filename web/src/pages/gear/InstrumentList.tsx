import { Scroll } from '../../ui/Scroll.tsx'
import { act } from '../../platform/act.ts'
import { errorText } from '../../platform/errorText.ts'
import {
  dayText,
  type Instrument,
  type InstrumentDocument,
  instrumentTypes,
  type Station,
} from '@saltline/contract'
import { formatPower } from '@saltline/core'
import { Pencil, Plus, Trash2 } from 'lucide-react'
import { useState } from 'react'
import { addGear, deleteGear, restoreGear, updateGear } from '../../platform/api/queries.ts'
import { instrumentsOf } from '../../model/places.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { Dialog } from '../../ui/Dialog.tsx'
import { OptionalField } from '../../ui/OptionalField.tsx'
import { PlainField, span } from '../../ui/quantities.tsx'
import { TextField } from '../../ui/TextField.tsx'
import { readRanges } from './readRanges.ts'
import { Problem } from '../../ui/Problem.tsx'

const fresh: InstrumentDocument = {
  name: 'My meter',
  type: 'through-line',
  kind: 'averaging',
  rangesW: [5, 50, 500],
  accuracy: 0.05,
  accuracyOf: 'full scale',
  directivityDb: 25,
}

/** What the station measures with, and how well each of them does. */
export function InstrumentList({ station }: { station: Station }) {
  const instruments = instrumentsOf(station)
  const [editing, setEditing] = useState<Instrument | 'new' | null>(null)
  return (
    <section aria-label="Instruments" className="border-t border-rule px-5 py-3">
      <div className="mb-2 flex max-w-5xl items-end justify-between gap-4">
        <p className="text-sm text-muted">
          Readings carry their instrument; how far each may be off follows from it. An instrument
          that has not been compared with a better one for years promises more than it keeps.
        </p>
        <button type="button" className="button" onClick={() => setEditing('new')}>
          <Plus size={14} aria-hidden /> Instrument
        </button>
      </div>
      <Scroll label="Instruments" className="max-w-5xl">
        <table className="w-full text-sm">
          <thead className="text-left text-muted">
            <tr className="border-b border-rule [&>th]:py-1 [&>th]:pr-4 [&>th]:font-normal">
              <th scope="col">name</th>
              <th scope="col">kind</th>
              <th scope="col">shows</th>
              <th scope="col">ranges</th>
              <th scope="col">accuracy</th>
              <th scope="col">directivity</th>
              <th scope="col">last check</th>
              <th>
                <span className="sr-only">Change</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {instruments.map((each) => (
              <Row key={each.id} instrument={each} onEdit={() => setEditing(each)} />
            ))}
          </tbody>
        </table>
        {instruments.length === 0 && (
          <p className="py-6 text-center text-muted">
            No instrument yet. Until there is one, readings count as those of a usual meter, ± 5 %
            of full scale.
          </p>
        )}
      </Scroll>
      {editing && (
        <EditInstrument
          station={station}
          instrument={editing === 'new' ? null : editing}
          onClose={() => setEditing(null)}
        />
      )}
    </section>
  )
}

const accuracyText = ({ accuracy, accuracyOf, rangesW, divisions }: InstrumentDocument): string =>
  `± ${Number((accuracy * 100).toPrecision(3))}\u00a0% of ${rangesW.length > 0 ? (accuracyOf ?? 'full scale') : 'reading'}${divisions ? `, ${divisions} marks` : ''}`

function Row({ instrument, onEdit }: { instrument: Instrument; onEdit: () => void }) {
  const { id, document } = instrument
  const remove = () =>
    act(async () => {
      await deleteGear(id)
      return { said: `Deleted: ${document.name}. Its readings stay.`, undo: () => restoreGear(id) }
    })
  return (
    <tr className="border-b border-rule [&>td]:py-1.5 [&>td]:pr-4">
      <td>
        <b>{document.name}</b>
        {document.note && <span className="block text-xs text-muted">{document.note}</span>}
      </td>
      <td>{document.type}</td>
      <td>{document.type === 'dummy load' ? '' : document.kind === 'peak' ? 'peak' : 'average'}</td>
      <td>
        {document.type === 'dummy load'
          ? ''
          : document.rangesW.length === 0
            ? 'finds its own'
            : document.rangesW.map((w) => formatPower(w)).join(', ')}
      </td>
      <td className="whitespace-nowrap">{accuracyText(document)}</td>
      <td>{document.directivityDb ? `${document.directivityDb}\u00a0dB` : ''}</td>
      <td className="whitespace-nowrap">
        {document.checkedOn ? dayText(document.checkedOn) : 'never'}
      </td>
      <td className="text-right whitespace-nowrap">
        <button
          type="button"
          className="quiet"
          aria-label={`Change ${document.name}`}
          onClick={onEdit}
        >
          <Pencil size={14} aria-hidden />
        </button>
        <button
          type="button"
          className="quiet"
          aria-label={`Delete ${document.name}`}
          onClick={() => void remove()}
        >
          <Trash2 size={14} aria-hidden />
        </button>
      </td>
    </tr>
  )
}

function EditInstrument({
  station,
  instrument,
  onClose,
}: {
  station: Station
  instrument: Instrument | null
  onClose: () => void
}) {
  const [document, setDocument] = useState(instrument?.document ?? fresh)
  const [ranges, setRanges] = useState(document.rangesW.join(', '))
  const [problem, setProblem] = useState<string | null>(null)
  const put = (change: Partial<InstrumentDocument>) => setDocument((old) => ({ ...old, ...change }))
  const save = async () => {
    const read = readRanges(ranges)
    if (!read.ok) return setProblem(read.message)
    const { rangesW } = read
    const body = { kind: 'instrument' as const, document: { ...document, rangesW } }
    try {
      if (instrument) await updateGear(instrument.id, body)
      else await addGear(station.id, body)
      onClose()
    } catch (error) {
      setProblem(errorText(error))
    }
  }
  return (
    <Dialog title={instrument ? instrument.document.name : 'An instrument'} onClose={onClose}>
      <div className="grid gap-3 sm:grid-cols-2">
        <TextField label="Name" value={document.name} onChange={(name) => put({ name })} />
        <ChoiceField
          label="Kind"
          value={document.type}
          options={instrumentTypes.map((type) => ({ value: type, label: type }))}
          onChange={(type) => put({ type })}
        />
        <ChoiceField<InstrumentDocument['kind']>
          label="Averaging or peak-reading"
          value={document.kind}
          options={[
            { value: 'averaging', label: 'averaging' },
            { value: 'peak', label: 'peak-reading (PEP)' },
          ]}
          onChange={(kind) => put({ kind })}
        />
        <label className="text-xs text-muted">
          Full scales, W
          <input
            className="field mt-0.5 text-sm"
            value={ranges}
            placeholder="finds its own"
            onChange={({ target }) => setRanges(target.value)}
          />
        </label>
        <PlainField
          label="Accuracy, ±"
          unit="%"
          value={document.accuracy * 100}
          step={1}
          {...span('accuracy', 100)}
          onChange={(percent) => put({ accuracy: percent / 100 })}
        />
        <ChoiceField<'full scale' | 'reading'>
          label="of"
          value={document.accuracyOf ?? 'full scale'}
          options={[
            { value: 'full scale', label: 'full scale' },
            { value: 'reading', label: 'the reading' },
          ]}
          onChange={(accuracyOf) => put({ accuracyOf })}
        />
        <OptionalField
          label="Scale divisions, 0 to full scale"
          value={document.divisions ?? null}
          whole
          {...span('divisions')}
          onChange={(marks) => put({ divisions: marks ?? undefined })}
        />
        <OptionalField
          label="Directivity"
          unit="dB"
          value={document.directivityDb ?? null}
          {...span('directivityDb')}
          onChange={(directivityDb) => put({ directivityDb: directivityDb ?? undefined })}
        />
        {document.type === 'dummy load' && (
          <DummyRating load={document.load} onChange={(load) => put({ load })} />
        )}
        <label className="text-xs text-muted">
          Last checked against a better one
          <input
            type="date"
            className="field mt-0.5 text-sm"
            value={document.checkedOn ?? ''}
            onChange={({ target }) => put({ checkedOn: target.value || undefined })}
          />
        </label>
        <TextField
          label="Note"
          optional
          value={document.note ?? ''}
          onChange={(note) => put({ note })}
        />
      </div>
      <Problem text={problem} />
      <button type="button" className="button button-main mt-4" onClick={() => void save()}>
        {instrument ? 'Save the change' : 'Add to the station'}
      </button>
    </Dialog>
  )
}

const USUAL_RATING = { continuousW: 100, burst: { watts: 300, minutes: 10 } }

/** What a dummy load withstands: run sheets key into it for as long as that allows. */
function DummyRating({
  load,
  onChange,
}: {
  load: InstrumentDocument['load']
  onChange: (load: InstrumentDocument['load']) => void
}) {
  const put = (change: Partial<NonNullable<InstrumentDocument['load']>>) =>
    onChange({ ...(load ?? USUAL_RATING), ...change })
  const { burst } = load ?? USUAL_RATING
  return (
    <>
      <OptionalField
        label="Continuous rating"
        dimension="power"
        unit="W"
        value={load?.continuousW ?? null}
        {...span('powerW')}
        onChange={(continuousW) =>
          continuousW === null ? onChange(undefined) : put({ continuousW })
        }
      />
      {load && (
        <>
          <PlainField
            label="For a while"
            unit="W"
            step={10}
            value={burst.watts}
            {...span('powerW')}
            onChange={(watts) => put({ burst: { ...burst, watts } })}
          />
          <PlainField
            label="for so long"
            unit="min"
            step={1}
            value={burst.minutes}
            {...span('loadMinutes')}
            onChange={(minutes) => put({ burst: { ...burst, minutes } })}
          />
        </>
      )}
    </>
  )
}
