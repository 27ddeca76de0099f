import {
  type ChainDocument,
  limits,
  type Mode,
  placesOf,
  type Reading,
  type ReadingBody,
  type Station,
} from '@saltline/contract'
import { formatFrequency, modeOf, modeTable } from '@saltline/core'
import { useState } from 'react'
import { correctReading } from '../../platform/api/logQueries.ts'
import { actOnRecord } from '../../platform/wayBack.ts'
import { errorText } from '../../platform/errorText.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { Dialog } from '../../ui/Dialog.tsx'
import { OptionalField } from '../../ui/OptionalField.tsx'
import { ReadField } from '../../ui/quantities.tsx'
import { Problem } from '../../ui/Problem.tsx'
import { TextField } from '../../ui/TextField.tsx'
import { farEnds } from '../../model/farEnds.ts'
import { metersOf } from '../../model/places.ts'

/** A reading as it can be sent again. */
const bodyOf = (reading: Reading): ReadingBody => ({
  ...(reading.channelId !== null && { channelId: reading.channelId }),
  frequencyHz: reading.frequencyHz,
  mode: reading.mode,
  ...(reading.meanToPeak !== null && { meanToPeak: reading.meanToPeak }),
  powerW: reading.powerW,
  before: reading.before,
  ...(reading.farEnd !== 'antenna' && { farEnd: reading.farEnd }),
  // What the instrument showed is what is typed; it is corrected anew.
  ...(reading.forwardW !== null && { forwardW: reading.shownForwardW ?? reading.forwardW }),
  ...(reading.reflectedW !== null && {
    reflectedW: reading.shownReflectedW ?? reading.reflectedW,
  }),
  ...(reading.swr !== null && { swr: reading.swr }),
  ...(reading.rangeW !== null && { rangeW: reading.rangeW }),
  ...(reading.instrumentId !== null && { instrumentId: reading.instrumentId }),
  ...(reading.supplyV !== null && { supplyV: reading.supplyV }),
  weather: reading.weather,
  by: reading.by,
  note: reading.note,
  readAt: reading.readAt,
})

/** Puts a misread or mistyped reading right; it is held against the chain of its day. */
export function CorrectReading({
  reading,
  station,
  document,
  onClose,
}: {
  reading: Reading
  station: Station
  document: ChainDocument
  onClose: () => void
}) {
  const [body, setBody] = useState(() => bodyOf(reading))
  const [problem, setProblem] = useState<string | null>(null)
  const put = (change: { [K in keyof ReadingBody]?: ReadingBody[K] | undefined }) =>
    setBody((old) => {
      const next = { ...old, ...change }
      for (const key of Object.keys(next) as (keyof ReadingBody)[])
        if (next[key] === undefined) delete next[key]
      return next as ReadingBody
    })
  const places = placesOf(document)
  const known = places.some(({ before }) => before === body.before)
  const save = async () => {
    try {
      await correctReading(reading.id, body)
      onClose()
      await actOnRecord(() =>
        Promise.resolve({
          said: 'The reading is corrected.',
          undo: () => correctReading(reading.id, bodyOf(reading)),
        }),
      )
    } catch (error) {
      setProblem(errorText(error))
    }
  }
  const figure = (
    label: string,
    key: 'forwardW' | 'reflectedW' | 'rangeW' | 'powerW',
    within: 'shownW' | 'rangeW' | 'powerW',
  ) => (
    <ReadField
      label={label}
      within={within}
      value={body[key] ?? null}
      onChange={(value) =>
        key === 'powerW' && value === null ? undefined : put({ [key]: value ?? undefined })
      }
    />
  )
  return (
    <Dialog title="Correct a reading" onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault()
          void save()
        }}
      >
        <div className="grid grid-cols-2 gap-3">
          {figure('Forward', 'forwardW', 'shownW')}
          {figure('Reflected', 'reflectedW', 'shownW')}
          <OptionalField
            label="SWR"
            value={body.swr ?? null}
            onChange={(swr) => put({ swr: swr ?? undefined })}
            dimension="swr"
            min={1}
            max={1000}
          />
          {figure('Set power, PEP', 'powerW', 'powerW')}
          <ChoiceField
            label="Where"
            value={body.before}
            options={[
              ...(known
                ? []
                : [{ value: body.before, label: `${reading.place} (as it was then)` }]),
              ...places.map(({ before, name }) => ({ value: before, label: name })),
            ]}
            onChange={(before) => put({ before })}
          />
          <ChoiceField
            label="With"
            value={body.instrumentId ?? ''}
            options={[
              { value: '', label: 'a usual meter' },
              ...metersOf(station).map(({ id, document: { name } }) => ({
                value: id,
                label: name,
              })),
            ]}
            onChange={(id) => put({ instrumentId: id || undefined })}
          />
          <ChoiceField
            label="Channel"
            value={body.channelId ?? ''}
            options={[
              { value: '', label: `${formatFrequency(reading.frequencyHz)}, no channel` },
              ...document.channels.map(({ id, frequencyHz, mode }) => ({
                value: id,
                label: `${formatFrequency(frequencyHz)}, ${modeOf(mode).short}`,
              })),
            ]}
            onChange={(id) => {
              const channel = document.channels.find((own) => own.id === id)
              put({
                channelId: channel?.id,
                frequencyHz: channel?.frequencyHz ?? reading.frequencyHz,
              })
            }}
          />
          <ChoiceField<Mode>
            label="Mode"
            value={body.mode}
            options={modeTable.map(({ id, name }) => ({ value: id, label: name }))}
            // Another mode has another mean; what was measured of the old one does not hold.
            onChange={(mode) => put({ mode, meanToPeak: undefined })}
          />
          <ChoiceField
            label="At the far end"
            value={body.farEnd ?? 'antenna'}
            options={farEnds}
            onChange={(farEnd) => put({ farEnd: farEnd === 'antenna' ? undefined : farEnd })}
          />
          {figure('Range of the meter', 'rangeW', 'rangeW')}
          <OptionalField
            label="Supply"
            unit="V"
            value={body.supplyV ?? null}
            onChange={(supplyV) => put({ supplyV: supplyV ?? undefined })}
            min={limits.supplyV[0]}
            max={limits.supplyV[1]}
          />
          <TextField
            label="Note"
            optional
            most={2000}
            value={body.note ?? ''}
            onChange={(note) => put({ note })}
          />
        </div>
        <p className="mt-2 text-xs text-muted">
          What was expected is worked out anew for the corrected figures, on the chain as it stood
          when it was read.
        </p>
        <Problem text={problem} />
        <button type="submit" className="button button-main mt-3">
          Save the correction
        </button>
      </form>
    </Dialog>
  )
}
