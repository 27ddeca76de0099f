import { errorText } from '../app/errorText.ts'
import type { ChainDocument, ChannelDocument, LoadDocument } from '@saltline/contract'
import {
  type ColumnMapping,
  formatFrequency,
  formatSwr,
  interpolateReflection,
  type OnePortSweep,
  swrOf,
  writeTouchstone,
} from '@saltline/core'
import { useEffect, useMemo, useState } from 'react'
import { addAntenna } from '../api/queries.ts'
import { ChoiceField } from '../parts/ChoiceField.tsx'
import { Dialog } from '../parts/Dialog.tsx'
import { FigureList } from '../parts/FigureList.tsx'
import { TextField } from '../parts/TextField.tsx'
import { carryToFeedPoint } from './carryToFeedPoint.ts'
import { ColumnStep } from './ColumnStep.tsx'
import { OfferTwoPort } from './OfferTwoPort.tsx'
import type { ReadReply, TablePreview } from './reading.ts'
import { useReadSweep } from './useReadSweep.ts'
import { Problem } from '../parts/Problem.tsx'

interface Props {
  file: File
  stationId: string
  document: ChainDocument
  channel: ChannelDocument
  onClose: () => void
  onAdded: (load: LoadDocument) => void
  /** A measured two-port was taken as a stage at this place. */
  onStage: (index: number, stage: { name: string; frequencyHz: number[]; s: number[] }) => void
}

/** A file on its way in: what it holds, where it belongs, what it makes of the chain. */
export function ImportSweep(props: Props) {
  const { file: read, mapped, map } = useReadSweep(props.file)
  return (
    <Dialog title={`Import ${props.file.name}`} onClose={props.onClose}>
      {!read && <p role="status">Reading {Math.ceil(props.file.size / 1024)} KiB…</p>}
      {read?.kind === 'problem' && <Refusal message={read.message} />}
      {read?.kind === 'sweep' && (
        <Offer {...props} sweep={read.sweep} phaseKnown={read.phaseKnown} />
      )}
      {read?.kind === 'twoPort' && <OfferTwoPort {...props} {...read} />}
      {read?.kind === 'table' && (
        <FromTable {...props} table={read.table} mapped={mapped} map={map} />
      )}
    </Dialog>
  )
}

const Refusal = ({ message }: { message: string }) => (
  <p role="alert" className="text-danger">
    ⚠ {message} Nothing was imported.
  </p>
)

/** A table first needs its columns named; what they make of it follows at once. */
function FromTable({
  table,
  mapped,
  map,
  ...props
}: Props & {
  table: TablePreview
  mapped: ReadReply | null
  map: (mapping: ColumnMapping) => void
}) {
  const [mapping, setMapping] = useState(table.guess)
  useEffect(() => map(mapping), [mapping]) // eslint-disable-line react-hooks/exhaustive-deps
  return (
    <div className="space-y-3">
      <ColumnStep
        table={table}
        mapping={mapping}
        sweep={mapped?.kind === 'sweep' ? mapped : null}
        onChange={setMapping}
      />
      {mapped?.kind === 'problem' && <Refusal message={mapped.message} />}
      {mapped?.kind === 'sweep' && (
        <Offer {...props} sweep={mapped.sweep} phaseKnown={mapped.phaseKnown} />
      )}
    </div>
  )
}

const point = new Float64Array(2)

function swrAt({ frequencyHz, re, im }: OnePortSweep, hz: number): string {
  return interpolateReflection({ kind: 'sweep', frequencyHz, re, im }, hz, point)
    ? formatSwr(swrOf(Math.hypot(point[0]!, point[1]!)))
    : 'not covered'
}

function Offer({
  file,
  stationId,
  document,
  channel,
  onAdded,
  sweep,
  phaseKnown,
}: Omit<Props, 'onStage'> & { sweep: OnePortSweep; phaseKnown: boolean }) {
  const { stages } = document
  const [name, setName] = useState(file.name.replace(/\.\w+$/, '').slice(0, 80) || 'Antenna')
  const [plane, setPlane] = useState(stages.length)
  const [problem, setProblem] = useState<string | null>(null)
  const carried = useMemo(
    () => carryToFeedPoint(sweep, stages.slice(plane), phaseKnown),
    [sweep, stages, plane, phaseKnown],
  )
  const [low, high] = [sweep.frequencyHz[0]!, sweep.frequencyHz.at(-1)!]
  const take = async () => {
    if (!carried.possible) return
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
  return (
    <div className="space-y-3">
      <div className="grid gap-3 sm:grid-cols-2">
        <TextField label="Name of the antenna" value={name} onChange={setName} />
        <ChoiceField
          label="Where was it measured?"
          value={String(plane)}
          options={[
            { value: String(stages.length), label: 'at the feed point' },
            ...stages.map((stage, k) => ({
              value: String(k),
              label:
                k === 0 ? 'at the transmitter’s end, plane 0' : `plane ${k}, before ${stage.name}`,
            })),
          ]}
          onChange={(value) => setPlane(Number(value))}
        />
      </div>
      <FigureList
        rows={[
          [
            'Points',
            `${sweep.frequencyHz.length}, ${formatFrequency(low)} to ${formatFrequency(high)}`,
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
