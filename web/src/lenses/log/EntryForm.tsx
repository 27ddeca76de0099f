import { nowIso } from '../../platform/clock.ts'
import {
  type ChainDocument,
  type ChannelDocument,
  type FarEnd,
  type Mode,
  type Place,
  type Reading,
  type ReadingBody,
  readingBodySchema,
  type Station,
  textLimits,
} from '@saltline/contract'
import {
  calibratedMeter,
  type Chain,
  correctedW,
  formatPower,
  modeOf,
  modeTable,
  swrRead,
  usualMeter,
} from '@saltline/core'
import { useEffect, useMemo, useRef, useState } from 'react'
import { errorText } from '../../platform/errorText.ts'
import { readingWords } from '../../model/readingWords.ts'
import { removeFromLog } from '../../platform/api/logQueries.ts'
import { useKept } from '../../platform/useKept.ts'
import { actOnRecord } from '../../platform/wayBack.ts'
import { enterReading } from '../../platform/outbox/enter.ts'
import { outbox } from '../../platform/outbox/index.ts'
import { setPreferences, usePreferences } from '../../platform/preferences.ts'
import { settingOf } from '../../model/answers.ts'
import { useExpectedReading } from '../../compute/useExpectedReading.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { OptionalField } from '../../ui/OptionalField.tsx'
import { LevelField, ReadField } from '../../ui/quantities.tsx'
import { TextField } from '../../ui/TextField.tsx'
import { endCaution, farEnds } from '../../model/farEnds.ts'
import { metersOf } from '../../model/places.ts'
import { Problem } from '../../ui/Problem.tsx'
import { SwrVerdict, WattsVerdict } from './Verdict.tsx'
import { WaitingReadings } from './WaitingReadings.tsx'

interface Props {
  station: Station
  chainId: string
  document: ChainDocument
  chain: Chain
  channel: ChannelDocument
  places: readonly Place[]
  place: Place
  onPlace: (place: Place) => void
  onChannel: (id: string) => void
  /** Set power (PEP), W, where it is not the channel's. */
  powerW: number | null
  /** @param powerW null for what is set on the channel anyway */
  onPower: (channelId: string, powerW: number | null) => void
  /** What the line ends in while it is read. */
  farEnd: FarEnd
  onFarEnd: (farEnd: FarEnd) => void
  /** The newest reading of the round: what it was read with is a good guess. */
  last: Reading | undefined
  /** Whether the next reading joins that round: the weather is the same then. */
  open: boolean
  onKept: (reading: Reading) => void
}

type Seen = 'reflected' | 'swr'

const BLANK = {
  seen: 'reflected' as Seen,
  forwardW: null as number | null,
  reflectedW: null as number | null,
  swr: null as number | null,
  supplyV: null as number | null,
  weather: null as string | null,
  note: '',
}

/** One reading in seconds: where, with what, the figures, Enter. */
export function EntryForm(props: Props) {
  const { station, chainId, document, chain, channel, places, place, last, onKept } = props
  const { powerW, onPower, farEnd, onFarEnd } = props
  const meters = metersOf(station)
  const preferences = usePreferences()
  const [instrumentId, setInstrument] = useState<string | null>(null)
  const [mode, setMode] = useState<Mode | null>(null)
  const { value: half, put } = useKept(`reading.${chainId}`, BLANK)
  const { seen, forwardW, reflectedW, swr, supplyV, weather, note } = half
  const [problem, setProblem] = useState<string | null>(null)
  const weatherNow = weather ?? (props.open ? (last?.weather ?? '') : '')
  /** Counts the readings that were kept: the fields of each begin anew. */
  const [turn, setTurn] = useState(0)
  const first = useRef<HTMLInputElement>(null)
  /** Whether nothing has been typed for the next reading yet. */
  const blank = useRef(true)
  useEffect(() => {
    blank.current = forwardW === null && reflectedW === null && swr === null && note === ''
  }, [forwardW, reflectedW, swr, note])

  const instrument =
    meters.find(({ id }) => id === (instrumentId ?? last?.instrumentId)) ?? meters[0]
  const meter = instrument ? calibratedMeter(instrument.document) : usualMeter
  /** What a calibrated instrument means by what it shows. */
  const corrected = (watts: number | null) =>
    watts === null ? null : correctedW(instrument?.document.calibration?.points ?? [], watts)
  const readMode = mode ?? last?.mode ?? channel.mode
  const setW = settingOf(document.transmitter, channel)
  const readOn = useMemo(
    () => ({
      ...(readMode === channel.mode
        ? channel
        : { ...channel, mode: readMode, meanToPeak: undefined }),
      powerW: powerW ?? setW,
    }),
    [channel, readMode, powerW, setW],
  )
  // What is set for a reading is sent, also where the radio is kept reduced otherwise.
  const sending = useMemo(
    () => ({ ...document, transmitter: { ...document.transmitter, reduced: undefined } }),
    [document],
  )
  const { answer, expected } = useExpectedReading(
    chain,
    sending,
    readOn,
    place.plane,
    meter,
    farEnd,
  )
  const read = {
    forwardW,
    reflectedW: seen === 'reflected' ? reflectedW : null,
    swr: seen === 'swr' ? swr : null,
  }
  const swrSeen = swrRead({
    ...read,
    forwardW: corrected(forwardW),
    reflectedW: corrected(read.reflectedW),
  })

  const clear = () => {
    put({ forwardW: null, reflectedW: null, swr: null, note: '' })
    setTurn((n) => n + 1)
  }
  // The fields are free for the next reading at once. One that the server does not take waits above them, whole: it
  // never mixes with what is being typed by then.
  const send = async (body: ReadingBody) => {
    const said = readingWords(body, place.name, preferences.power)
    const { entryId, reading, refused } = await enterReading(chainId, body, said)
    if (refused && blank.current) {
      takeUp(body)
      outbox.discard(entryId)
      setProblem(`Not saved: ${errorText(refused)} It stands in the fields below again.`)
    } else if (reading) {
      onKept(reading)
      await actOnRecord(() =>
        Promise.resolve({
          said: `Saved: ${reading.place}, ${reading.forwardW === null ? 'SWR' : formatPower(reading.forwardW, preferences.power)}`,
          undo: () => removeFromLog('readings', reading.id),
        }),
      )
    }
  }
  const keep = () => {
    const body: ReadingBody = {
      channelId: channel.id,
      frequencyHz: channel.frequencyHz,
      mode: readMode,
      ...(readOn.meanToPeak && { meanToPeak: readOn.meanToPeak }),
      powerW: readOn.powerW,
      before: place.before,
      ...(farEnd !== 'antenna' && { farEnd }),
      ...(forwardW !== null && { forwardW }),
      ...(read.reflectedW !== null && { reflectedW: read.reflectedW }),
      ...(read.swr !== null && { swr: read.swr }),
      ...(instrument && { instrumentId: instrument.id }),
      ...(supplyV !== null && { supplyV }),
      weather: weatherNow,
      by: preferences.by,
      note,
      // Read now, whenever it is kept.
      readAt: nowIso(),
    }
    // What the server would not take either is said before anything is sent, perhaps hours later.
    const wrong = readingBodySchema.safeParse(body).error?.issues[0]
    setProblem(wrong ? wrong.message : null)
    if (wrong) return
    clear()
    void send(body)
  }
  const takeUp = (body: ReadingBody) => {
    put({
      forwardW: body.forwardW ?? null,
      reflectedW: body.reflectedW ?? null,
      swr: body.swr ?? null,
      seen: body.swr === undefined ? 'reflected' : 'swr',
      note: body.note ?? '',
    })
    setMode(body.mode)
    onFarEnd(body.farEnd ?? 'antenna')
    onPower(body.channelId ?? channel.id, body.powerW)
    setTurn((n) => n + 1)
    const own = places.find(({ before }) => before === body.before)
    if (own) props.onPlace(own)
    if (body.channelId) props.onChannel(body.channelId)
  }
  useEffect(() => {
    if (turn > 0) first.current?.focus()
  }, [turn])

  return (
    <form
      aria-label="New reading"
      className="space-y-2.5"
      onSubmit={(event) => {
        event.preventDefault()
        keep()
      }}
    >
      <WaitingReadings
        chainId={chainId}
        onTakeUp={({ id, body }) => {
          takeUp(body as ReadingBody)
          outbox.discard(id)
        }}
      />
      <Problem text={problem} />
      <div className="grid grid-cols-2 gap-2">
        <ChoiceField
          label="Where"
          value={place.before}
          options={places.map(({ before, name }) => ({ value: before, label: name }))}
          onChange={(before) => props.onPlace(places.find((p) => p.before === before)!)}
        />
        <ChoiceField
          label="Channel"
          value={channel.id}
          options={document.channels.map(({ id, frequencyHz, name }) => ({
            value: id,
            label: `${Number((frequencyHz / 1e6).toFixed(4))} MHz${name ? `, ${name}` : ''}`,
          }))}
          onChange={props.onChannel}
        />
        <ChoiceField
          label="With"
          value={instrument?.id ?? ''}
          options={
            meters.length > 0
              ? meters.map(({ id, document: { name } }) => ({ value: id, label: name }))
              : [{ value: '', label: 'a usual meter' }]
          }
          onChange={setInstrument}
        />
        <ChoiceField<Mode>
          label="Mode"
          value={readMode}
          options={modeTable.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={setMode}
        />
      </div>
      <ReadField
        key={`forward ${turn}`}
        label={`Forward, as ${instrument?.document.name ?? 'the meter'} shows it`}
        inputRef={first}
        value={forwardW}
        onChange={(value) => put({ forwardW: value })}
        hint={expected && <WattsVerdict read={corrected(forwardW)} expected={expected} />}
      />
      <div className="grid grid-cols-[minmax(0,7rem)_minmax(0,1fr)] items-start gap-2">
        <ChoiceField<Seen>
          label="and"
          value={seen}
          options={[
            { value: 'reflected', label: 'reflected' },
            { value: 'swr', label: 'SWR' },
          ]}
          onChange={(value) => put({ seen: value })}
        />
        {seen === 'reflected' ? (
          <ReadField
            key={turn}
            label="Reflected"
            value={reflectedW}
            onChange={(value) => put({ reflectedW: value })}
          />
        ) : (
          <OptionalField
            key={turn}
            label="SWR"
            value={swr}
            onChange={(value) => put({ swr: value })}
            dimension="swr"
            min={1}
            max={1000}
          />
        )}
      </div>
      {expected && (
        <p className="-mt-1.5 text-xs text-muted">
          <SwrVerdict read={swrSeen} expected={expected} />
        </p>
      )}
      {reflectedW !== null &&
        forwardW !== null &&
        seen === 'reflected' &&
        reflectedW > forwardW && (
          <p aria-live="polite" className="text-sm text-caution">
            ▲ More comes back than goes out.{' '}
            <button
              type="button"
              className="link text-sm"
              onClick={() => {
                put({ forwardW: reflectedW, reflectedW: forwardW })
                setTurn((n) => n + 1)
              }}
            >
              Swapped? Exchange them
            </button>
          </p>
        )}
      {!answer.ok && <p className="text-sm text-caution">▲ {answer.message}</p>}
      <div className="grid grid-cols-2 gap-2">
        <ChoiceField label="At the far end" value={farEnd} options={farEnds} onChange={onFarEnd} />
        <LevelField
          label="Set power, PEP"
          value={readOn.powerW}
          onChange={(watts) => onPower(channel.id, watts === setW ? null : watts)}
        />
        <OptionalField
          label="Supply"
          value={supplyV}
          onChange={(value) => put({ supplyV: value })}
          unit="V"
          min={0}
          max={1000}
        />
        <TextField
          label="Weather"
          optional
          value={weatherNow}
          onChange={(value) => put({ weather: value })}
        />
        <TextField
          label="By"
          optional
          value={preferences.by}
          most={textLimits.by}
          onChange={(by) => setPreferences({ by })}
        />
        <TextField label="Note" optional value={note} onChange={(value) => put({ note: value })} />
      </div>
      {farEnd !== 'antenna' && (
        <p aria-live="polite" className="text-sm text-caution">
          ▲ {endCaution(farEnd, formatPower(readOn.powerW, preferences.power))}
        </p>
      )}
      <button
        type="submit"
        className="button button-main w-full"
        disabled={forwardW === null && read.swr === null}
      >
        Save the reading
      </button>
      <p className="text-xs text-muted">
        {modeOf(readMode).meanToPeak < 0.6
          ? 'A meter on speech never shows the same figure twice. A steady carrier, on a clear frequency or into a dummy load, reads better.'
          : 'Identify, keep the frequency clear, and key no longer than the reading takes.'}
      </p>
    </form>
  )
}
