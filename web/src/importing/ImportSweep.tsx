import type { ChainDocument, ChannelDocument, LoadDocument } from '@saltline/contract'
import {
  formatFrequency,
  formatSwr,
  interpolateReflection,
  type OnePortSweep,
  swrOf,
  writeTouchstone,
} from '@saltline/core'
import { useMemo, useState } from 'react'
import { addAntenna } from '../api/queries.ts'
import { ChoiceField } from '../parts/ChoiceField.tsx'
import { Dialog } from '../parts/Dialog.tsx'
import { FigureList } from '../parts/FigureList.tsx'
import { TextField } from '../parts/TextField.tsx'
import { carryToFeedPoint } from './carryToFeedPoint.ts'
import { useReadSweep } from './useReadSweep.ts'

interface Props {
  file: File
  stationId: string
  document: ChainDocument
  channel: ChannelDocument
  onClose: () => void
  onAdded: (load: LoadDocument) => void
}

/** A sweep file on its way in: what it holds, where it was measured, what that makes of the antenna. */
export function ImportSweep(props: Props) {
  const read = useReadSweep(props.file)
  return (
    <Dialog title={`Import ${props.file.name}`} onClose={props.onClose}>
      {!read && <p role="status">Reading {Math.ceil(props.file.size / 1024)} KiB…</p>}
      {read && !read.ok && (
        <p role="alert" className="text-danger">
          ⚠ {read.message} Nothing was imported.
        </p>
      )}
      {read?.ok && <Offer {...props} sweep={read.sweep} />}
    </Dialog>
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
}: Props & { sweep: OnePortSweep }) {
  const { stages } = document
  const [name, setName] = useState(file.name.replace(/\.s1p$/i, '').slice(0, 80) || 'Antenna')
  const [plane, setPlane] = useState(stages.length)
  const [problem, setProblem] = useState<string | null>(null)
  const carried = useMemo(
    () => carryToFeedPoint(sweep, stages.slice(plane)),
    [sweep, stages, plane],
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
      })
      onAdded({ kind: 'antenna', name, antennaId: antenna.id, sweepId: antenna.sweeps[0]!.id })
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error))
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
      {problem && (
        <p role="alert" className="text-danger">
          ⚠ {problem}
        </p>
      )}
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
