import {
  type Alternative,
  type ChainDocument,
  type Change,
  MOST_ALTERNATIVES,
  newId,
} from '@saltline/contract'
import { formatLength, type TunerPlace, tunerPlaces } from '@saltline/core'
import { Plus } from 'lucide-react'
import { useState } from 'react'
import { alternativesOf, changeText } from '../../model/alternatives.ts'
import { operatingPoint } from '../../model/answers.ts'
import { tunerPlaceChanges, tunerPlaceNames } from '../../model/tunerPlace.ts'
import { CablesForRun } from '../../panel/CablesForRun.tsx'
import { useUnits } from '../../platform/preferences.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { Dialog } from '../../ui/Dialog.tsx'
import { LengthField, LevelField } from '../../ui/quantities.tsx'
import type { LensProps } from '../../editor/lens.ts'

type Line = Extract<ChainDocument['stages'][number], { kind: 'line' }>

export type What = 'cable' | 'length' | 'tuner' | 'power' | 'part'

const whats: { what: What; label: string; title: string }[] = [
  { what: 'cable', label: 'Other cable', title: 'Another cable for a section' },
  { what: 'length', label: 'Other length', title: 'Another length of a section' },
  { what: 'tuner', label: 'Tuner elsewhere', title: 'The tuner in another place' },
  { what: 'power', label: 'Other power', title: 'Another set power' },
  { what: 'part', label: 'Without a part', title: 'The chain without a part' },
]

/** What may be asked of this chain. */
const possible = (what: What, { stages }: ChainDocument): boolean => {
  if (what === 'cable' || what === 'length') return stages.some(({ kind }) => kind === 'line')
  return what !== 'part' || stages.length > 0
}

/**
 * Makes an alternative of one change, or adds the change to the chosen one.
 *
 * @param asking which dialog is open, and for which section, from the address
 */
export function NewAlternative({
  chosen,
  asking,
  onAsk,
  onMade,
  onAdded,
  ...props
}: Pick<LensProps, 'station' | 'document' | 'chain' | 'channel'> & {
  chosen: Alternative | null
  asking: { what: What; stageId: string | null } | null
  onAsk: (asking: { what: What; stageId: string | null } | null) => void
  onMade: (alternative: Alternative) => void
  onAdded: (changes: Change[]) => void
}) {
  const { document } = props
  const units = useUnits()
  const [into, setInto] = useState<'new' | 'chosen'>('new')
  const full = alternativesOf(document).length >= MOST_ALTERNATIVES
  const take = (
    changes: Change[],
    name = changes.map((c) => changeText(c, document, units)).join(', '),
  ) => {
    if (into === 'chosen' && chosen) onAdded(changes)
    else onMade({ id: newId(), name: name.slice(0, 80), changes })
    onAsk(null)
  }
  const asked = asking && whats.find(({ what }) => what === asking.what)
  return (
    <div>
      <h2 className="mb-1 text-sm text-muted">New alternative</h2>
      <div className="flex flex-wrap gap-1.5">
        {whats
          .filter(({ what }) => possible(what, document))
          .map(({ what, label }) => (
            <button
              key={what}
              type="button"
              className="button"
              disabled={full && !chosen}
              onClick={() => onAsk({ what, stageId: null })}
            >
              <Plus size={14} aria-hidden /> {label}
            </button>
          ))}
      </div>
      {full && (
        <p className="mt-1 text-sm text-muted">
          {MOST_ALTERNATIVES} alternatives are as many as one table holds. Delete one to make
          another.
        </p>
      )}
      {asking && asked && (
        <Dialog title={asked.title} onClose={() => onAsk(null)}>
          <div className="space-y-3">
            {chosen && (
              <ChoiceField
                label="Goes into"
                value={full ? 'chosen' : into}
                options={[
                  ...(full ? [] : [{ value: 'new' as const, label: 'a new alternative' }]),
                  { value: 'chosen', label: chosen.name },
                ]}
                onChange={setInto}
              />
            )}
            <Ask {...props} asking={asking} onTake={take} />
          </div>
        </Dialog>
      )}
    </div>
  )
}

function Ask({
  asking,
  onTake,
  ...props
}: Pick<LensProps, 'station' | 'document' | 'chain' | 'channel'> & {
  asking: { what: What; stageId: string | null }
  onTake: (changes: Change[], name?: string) => void
}) {
  const { document } = props
  switch (asking.what) {
    case 'cable':
      return <AskCable {...props} stageId={asking.stageId} onTake={onTake} />
    case 'length':
      return <AskLength document={document} stageId={asking.stageId} onTake={onTake} />
    case 'tuner':
      return (
        <div className="flex flex-wrap gap-2">
          {tunerPlaces.map((place: TunerPlace) => (
            <button
              key={place}
              type="button"
              className="button"
              onClick={() =>
                onTake(tunerPlaceChanges(document, place), capital(tunerPlaceNames[place]))
              }
            >
              {capital(tunerPlaceNames[place])}
            </button>
          ))}
        </div>
      )
    case 'power':
      return <AskPower {...props} onTake={onTake} />
    case 'part':
      return (
        <div className="flex flex-wrap gap-2">
          {document.stages.map(({ id, name }) => (
            <button
              key={id}
              type="button"
              className="button"
              onClick={() => onTake([{ kind: 'remove', stageId: id }])}
            >
              Without {name}
            </button>
          ))}
        </div>
      )
  }
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

const linesOf = ({ stages }: ChainDocument) =>
  stages.filter((stage): stage is Line => stage.kind === 'line')

function SectionChoice({
  lines,
  value,
  onChange,
}: {
  lines: readonly Line[]
  value: string
  onChange: (id: string) => void
}) {
  const { length } = useUnits()
  return (
    <ChoiceField
      label="Section"
      value={value}
      options={lines.map(({ id, name, lengthM, cable }) => ({
        value: id,
        label: `${name}: ${formatLength(lengthM, length)} of ${cable.name}`,
      }))}
      onChange={onChange}
    />
  )
}

/** The longest section is the one that is asked about first. */
const longest = (lines: readonly Line[]): string =>
  lines.reduce((best, line) => (line.lengthM > best.lengthM ? line : best)).id

function AskCable({
  station,
  document,
  chain,
  channel,
  stageId,
  onTake,
}: Pick<LensProps, 'station' | 'document' | 'chain' | 'channel'> & {
  stageId: string | null
  onTake: (changes: Change[]) => void
}) {
  const lines = linesOf(document)
  const [id, setId] = useState(
    lines.some((line) => line.id === stageId) ? stageId! : longest(lines),
  )
  const index = document.stages.findIndex((stage) => stage.id === id)
  const section = document.stages[index] as Line
  return (
    <>
      <SectionChoice lines={lines} value={id} onChange={setId} />
      <CablesForRun
        station={station}
        chain={chain}
        at={operatingPoint(document.transmitter, channel)}
        stage={index}
        lengthM={section.lengthM}
        currentId={section.cable.gearId}
        takeLabel={(name) => `Compare with ${name}`}
        onTake={({ cable }) => onTake([{ kind: 'cable', stageId: id, cable }])}
      />
    </>
  )
}

function AskLength({
  document,
  stageId,
  onTake,
}: {
  document: ChainDocument
  stageId: string | null
  onTake: (changes: Change[]) => void
}) {
  const lines = linesOf(document)
  const [id, setId] = useState(
    lines.some((line) => line.id === stageId) ? stageId! : longest(lines),
  )
  const [lengthM, setLength] = useState<number | null>(null)
  const section = lines.find((line) => line.id === id)!
  const value = lengthM ?? section.lengthM
  return (
    <form
      className="space-y-3"
      onSubmit={(event) => {
        event.preventDefault()
        onTake([{ kind: 'length', stageId: id, lengthM: value }])
      }}
    >
      <SectionChoice
        lines={lines}
        value={id}
        onChange={(next) => {
          setId(next)
          setLength(null)
        }}
      />
      <LengthField label="Length" value={value} onChange={setLength} />
      <button type="submit" className="button button-main">
        Compare
      </button>
    </form>
  )
}

function AskPower({
  channel,
  onTake,
}: Pick<LensProps, 'channel'> & { onTake: (changes: Change[]) => void }) {
  const [powerW, setPower] = useState(channel.powerW)
  return (
    <form
      className="space-y-3"
      onSubmit={(event) => {
        event.preventDefault()
        onTake([{ kind: 'power', powerW }])
      }}
    >
      <LevelField label="Set power, on every channel" value={powerW} onChange={setPower} />
      <button type="submit" className="button button-main">
        Compare
      </button>
    </form>
  )
}
