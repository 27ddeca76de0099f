import type { ChainDocument, ChannelDocument } from '@saltline/contract'
import {
  decimals,
  formatDb,
  formatFrequency,
  formatSwr,
  solveChain,
  type Thinned,
} from '@saltline/core'
import { useMemo, useState } from 'react'
import { ChoiceField } from '../../../ui/ChoiceField.tsx'
import { FigureList } from '../../../ui/FigureList.tsx'
import { TextField } from '../../../ui/TextField.tsx'

interface Props {
  file: File
  document: ChainDocument
  channel: ChannelDocument
  thinned: Thinned
  pointCount: number
  onStage: (index: number, stage: { name: string; frequencyHz: number[]; s: number[] }) => void
}

/** A measured part between two matched ends: what it takes and shows. */
function betweenMatches({ frequencyHz, s }: Thinned['sweep'], hz: number): [string, string] {
  try {
    const { planes, stages } = solveChain(
      {
        transmitter: { behaviour: 'peaked', foldback: [] },
        stages: [{ kind: 'measured', frequencyHz, s }],
        load: { kind: 'fixed', rOhm: 50, xOhm: 0 },
      },
      { frequencyHz: hz, powerW: 1 },
    )
    return [formatDb(stages[0]!.lossDb), formatSwr(planes[0]!.swr)]
  } catch {
    return ['not covered', 'not covered']
  }
}

/** A two-port file is a stage: where does it sit? */
export function OfferTwoPort({ file, document, channel, thinned, pointCount, onStage }: Props) {
  const { stages } = document
  const [name, setName] = useState(file.name.replace(/\.\w+$/, '').slice(0, 80) || 'Measured part')
  const [index, setIndex] = useState(stages.length)
  const { sweep, worst } = thinned
  const [loss, swr] = useMemo(
    () => betweenMatches(sweep, channel.frequencyHz),
    [sweep, channel.frequencyHz],
  )
  const at = formatFrequency(channel.frequencyHz)
  return (
    <div className="space-y-3">
      <div className="grid gap-3 sm:grid-cols-2">
        <TextField label="Name of the part" value={name} onChange={setName} />
        <ChoiceField
          label="Where does it sit?"
          value={String(index)}
          options={[
            ...stages.map((stage, k) => ({ value: String(k), label: `input of ${stage.name}` })),
            { value: String(stages.length), label: `input of ${document.load.name}` },
          ]}
          onChange={(value) => setIndex(Number(value))}
        />
      </div>
      <FigureList
        rows={[
          [
            'Points',
            `${pointCount}, ${formatFrequency(sweep.frequencyHz[0]!)} to ${formatFrequency(sweep.frequencyHz.at(-1)!)}`,
          ],
          [
            'Kept in the chain',
            pointCount === sweep.frequencyHz.length
              ? 'all of them'
              : `${sweep.frequencyHz.length}; lines between them give back the rest to ${decimals(Math.max(worst, 0.0001), 4)} of S`,
          ],
          [`Loss on ${at}, between matched ends`, loss],
          [`SWR on ${at}, with a matched load`, swr],
        ]}
      />
      <button
        type="button"
        className="button button-main"
        onClick={() => onStage(index, { name, frequencyHz: sweep.frequencyHz, s: sweep.s })}
      >
        Add to the chain
      </button>
    </div>
  )
}
