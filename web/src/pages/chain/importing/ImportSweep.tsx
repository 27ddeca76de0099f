import { errorText } from '../../../platform/errorText.ts'
import type { ChainDocument, ChannelDocument, LoadDocument } from '@saltline/contract'
import {
  deembedSizeRange,
  formatFrequency,
  formatSwr,
  interpolateReflection,
  type OnePortSweep,
  REFERENCE_OHM,
  type Stage,
  swrOf,
  writeTouchstone,
  carryToFeedPoint,
} from '@saltline/core'
import { useMemo, useState } from 'react'
import { addAntenna } from '../../../platform/api/queries.ts'
import { WhereTaken } from './WhereTaken.tsx'
import { Dialog } from '../../../ui/Dialog.tsx'
import { FigureList } from '../../../ui/FigureList.tsx'
import { TextField } from '../../../ui/TextField.tsx'
import { ColumnStep } from './ColumnStep.tsx'
import { OfferTwoPort } from './OfferTwoPort.tsx'
import type { TablePreview } from '../../../model/sweepFile.ts'
import { useTask } from '../../../compute/useTask.ts'
import { Problem } from '../../../ui/Problem.tsx'

interface Props {
  /** Null where its rows are to be typed. */
  file: File | null
  stationId: string
  document: ChainDocument
  channel: ChannelDocument
  onClose: () => void
  onAdded: (load: LoadDocument) => void
  /** A measured two-port was taken as a stage at this place. */
  onStage: (index: number, stage: { name: string; frequencyHz: number[]; s: number[] }) => void
}

/** What is said of a sweep, whatever becomes of its file while rows are typed. */
interface Said {
  plane: number | null
  name: string
}

interface OfFile extends Omit<Props, 'file'> {
  file: File
  said: Said
  say: (part: Partial<Said>) => void
}

/** A sweep on its way in, as a file or as a typed table: what it holds, where it belongs, what it makes of the chain. */
export default function ImportSweep({ file, ...props }: Props) {
  const [typed, setTyped] = useState<File | null>(null)
  const { stages, load } = props.document
  const [said, setSaid] = useState<Said>({
    plane: stages.length === 0 ? 0 : null,
    name: file ? file.name.replace(/\.\w+$/, '').slice(0, 80) || 'Antenna' : load.name,
  })
  const say = (part: Partial<Said>) => setSaid((old) => ({ ...old, ...part }))
  const read = file ?? typed
  return (
    <Dialog
      title={file ? `Import ${file.name}` : 'An antenna from a table'}
      onClose={props.onClose}
    >
      {!file && <TypedRows onFile={setTyped} />}
      {read && <FromFile {...props} {...{ said, say }} file={read} />}
    </Dialog>
  )
}

function FromFile(props: OfFile) {
  const { file } = props
  const {
    last: read,
    running,
    problem,
  } = useTask(
    'sweepFile',
    useMemo(() => ({ file }), [file]),
  )
  return (
    <>
      {running && !read && <p role="status">Reading {Math.ceil(file.size / 1024)} KiB…</p>}
      {problem !== null && <Refusal message={problem} />}
      {read?.kind === 'sweep' && (
        <Offer {...props} sweep={read.sweep} phaseKnown={read.phaseKnown} />
      )}
      {read?.kind === 'twoPort' && <OfferTwoPort {...props} {...read} />}
      {read?.kind === 'table' && (
        <FromTable key={read.table.headings.join('\t')} {...props} table={read.table} />
      )}
    </>
  )
}

const ROWS = `MHz   R    X
7.0   42  -31
7.1   48   -4
7.2   55   22`

/** Rows as they are read off an analyser: typed, or pasted from a sheet. */
function TypedRows({ onFile }: { onFile: (file: File | null) => void }) {
  const [text, setText] = useState('')
  const write = (now: string) => {
    setText(now)
    onFile(now.trim() === '' ? null : new File([now], 'typed rows.csv'))
  }
  return (
    <div className="mb-3">
      <label className="block text-xs text-muted">
        One frequency a line, with R and X, with |Z| and its angle, or with an SWR
        <textarea
          className="field mt-0.5 h-36 font-mono text-sm"
          placeholder={ROWS}
          spellCheck={false}
          value={text}
          onChange={({ target }) => write(target.value)}
        />
      </label>
      <p className="mt-0.5 text-xs text-muted">
        A first line may name the columns. Between the lines is interpolated: three on each side of
        a resonance are few, ten are good.
      </p>
    </div>
  )
}

const Refusal = ({ message }: { message: string }) => (
  <p role="alert" className="text-danger">
    ⚠ {message} Nothing was imported.
  </p>
)

/** A table first needs its columns named; what they make of it follows at once. */
function FromTable({ table, ...props }: OfFile & { table: TablePreview }) {
  const [mapping, setMapping] = useState(table.guess)
  const { file } = props
  const { last, problem } = useTask(
    'sweepFile',
    useMemo(() => ({ file, mapping }), [file, mapping]),
  )
  const mapped = last?.kind === 'sweep' ? last : null
  return (
    <div className="space-y-3">
      <ColumnStep table={table} mapping={mapping} sweep={mapped} onChange={setMapping} />
      {problem !== null && <Refusal message={problem} />}
      {mapped && <Offer {...props} sweep={mapped.sweep} phaseKnown={mapped.phaseKnown} />}
    </div>
  )
}

const point = new Float64Array(2)

function sizeAt({ frequencyHz, re, im }: OnePortSweep, hz: number): number | null {
  return interpolateReflection({ kind: 'sweep', frequencyHz, re, im }, hz, point)
    ? Math.hypot(point[0]!, point[1]!)
    : null
}

function swrAt(sweep: OnePortSweep, hz: number): string {
  const size = sizeAt(sweep, hz)
  return size === null ? 'not covered' : formatSwr(swrOf(size))
}

function Offer({
  file,
  stationId,
  document,
  channel,
  onAdded,
  sweep,
  phaseKnown,
  said: { name, plane },
  say,
}: OfFile & { sweep: OnePortSweep; phaseKnown: boolean }) {
  const { stages } = document
  const [problem, setProblem] = useState<string | null>(null)
  const carried = useMemo(
    () => carryToFeedPoint(sweep, stages.slice(plane ?? stages.length), phaseKnown),
    [sweep, stages, plane, phaseKnown],
  )
  const [low, high] = [sweep.frequencyHz[0]!, sweep.frequencyHz.at(-1)!]
  const take = async () => {
    if (!carried.possible || plane === null) return
    const comments = [
      ...carried.sweep.comments,
      ...(plane < stages.length ? [`carried from plane ${plane} to the feed point`] : []),
    ]
    try {
      const antenna = await addAntenna(stationId, {
        name,
        sweepName: file.name.slice(0, 80),
        touchstone: writeTouchstone({ ...carried.sweep, comments }),
        phaseKnown,
      })
      onAdded({ kind: 'antenna', name, antennaId: antenna.id, sweepId: antenna.sweeps[0]!.id })
    } catch (error) {
      setProblem(errorText(error))
    }
  }
  const merged = sweep.comments.find((comment) => comment.endsWith('merged'))
  const where = <WhereTaken stages={stages} plane={plane} onPlane={(at) => say({ plane: at })} />
  if (plane === null) return where
  return (
    <div className="space-y-3">
      {where}
      <TextField label="Name of the antenna" value={name} onChange={(to) => say({ name: to })} />
      <FigureList
        rows={[
          [
            'Points',
            `${sweep.frequencyHz.length}, ${formatFrequency(low)} to ${formatFrequency(high)}${merged ? `; ${merged}` : ''}`,
          ],
          [
            `SWR on ${formatFrequency(channel.frequencyHz)} as measured`,
            swrAt(sweep, channel.frequencyHz),
          ],
          ...(carried.possible
            ? ([['and at the feed point', swrAt(carried.sweep, channel.frequencyHz)]] as const)
            : []),
        ]}
      />
      {carried.possible && !phaseKnown && (
        <SizeAlone sweep={sweep} stages={stages.slice(plane)} frequencyHz={channel.frequencyHz} />
      )}
      {!carried.possible && (
        <p role="alert" className="text-danger">
          ⚠ {carried.message}
        </p>
      )}
      <Problem text={problem} />
      <button
        type="button"
        className="button button-main"
        disabled={!carried.possible}
        onClick={() => void take()}
      >
        Use as this chain’s antenna
      </button>
    </div>
  )
}

/** What an SWR without a phase leaves open behind parts that are not on the reference. */
function SizeAlone({
  sweep,
  stages,
  frequencyHz,
}: {
  sweep: OnePortSweep
  stages: readonly Stage[]
  frequencyHz: number
}) {
  const measured = sizeAt(sweep, frequencyHz)
  if (measured === null || stages.length === 0) return null
  const { low, high } = deembedSizeRange(stages, frequencyHz, REFERENCE_OHM, measured)
  if (high - low < 0.02) return null
  return (
    <p className="max-w-xl text-sm text-caution">
      ▲ Only the SWR was measured, not its phase. At the feed point it may be anything from{' '}
      {formatSwr(swrOf(low))} to {high < 1 ? formatSwr(swrOf(high)) : 'all reflected'}, since what
      lies between is not matched to {REFERENCE_OHM} Ω. Measure at the feed point, or with an
      analyser that knows the phase.
    </p>
  )
}
