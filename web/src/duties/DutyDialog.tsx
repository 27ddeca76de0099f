import {
  type Duty,
  type DutyBody,
  dutyBodySchema,
  type DutyTask,
  type OfferedDuty,
  type WorksheetKind,
  worksheetKinds,
} from '@saltline/contract'
import { formatFrequency } from '@saltline/core'
import { useQuery } from '@tanstack/react-query'
import { Trash2 } from 'lucide-react'
import { useState } from 'react'
import { bodyOf } from '../model/duties.ts'
import { sheetsOf } from '../model/ownSheets.ts'
import { act } from '../platform/act.ts'
import { addDuty, changeDuty, deleteDuty } from '../platform/api/dutyQueries.ts'
import { chainQuery, stationQuery } from '../platform/api/queries.ts'
import { thingsQuery } from '../platform/api/thingQueries.ts'
import { today } from '../platform/today.ts'
import { ChoiceField } from '../ui/ChoiceField.tsx'
import { Dialog } from '../ui/Dialog.tsx'
import { OptionalField } from '../ui/OptionalField.tsx'
import { Problem } from '../ui/Problem.tsx'
import { TextField } from '../ui/TextField.tsx'
import { titleOf } from '../worksheets/sheets/index.ts'
import { DateField } from './DateField.tsx'

const kinds: readonly { value: DutyTask['kind']; label: string }[] = [
  { value: 'plain', label: 'plain words, ticked by hand' },
  { value: 'reading', label: 'a reading' },
  { value: 'sheet', label: 'a run sheet' },
  { value: 'bench', label: 'a bench sheet' },
]

const NEW: DutyBody = {
  ...{ title: 'Look at the connectors', note: '', chainId: null, thingId: null },
  task: { kind: 'plain' },
  ...{ months: 12, afterEvent: null, from: '' },
}

/** A duty as it is asked for: what, where, how often. */
export function DutyDialog({
  stationId,
  duty,
  onClose,
  onDelete,
}: {
  stationId: string
  /** One that is there, or one that ships; without it, a new one. */
  duty?: Duty | OfferedDuty
  onClose: () => void
  onDelete?: () => void
}) {
  const [body, setBody] = useState<DutyBody>(() =>
    duty ? bodyOf(duty) : { ...NEW, from: today() },
  )
  const [problem, setProblem] = useState<string | null>(null)
  const { data: station } = useQuery(stationQuery(stationId))
  const { data: chain } = useQuery({
    ...chainQuery(body.chainId ?? ''),
    enabled: body.chainId !== null,
  })
  const { data: things = [] } = useQuery(thingsQuery(stationId))
  if (!station) return null
  const set = (change: Partial<DutyBody>) => setBody({ ...body, ...change })
  const id = duty && 'id' in duty ? duty.id : null
  const { task } = body
  const taskOf = (kind: DutyTask['kind']): DutyTask =>
    kind === 'sheet'
      ? { kind, sheetId: 'yearly' }
      : kind === 'bench'
        ? { kind, worksheet: 'two-meters' }
        : { kind }
  const save = async () => {
    const checked = dutyBodySchema.safeParse(body)
    if (!checked.success) return setProblem(checked.error.issues[0]!.message)
    const kept = await act(async () => {
      if (id !== null) {
        await changeDuty(id, checked.data)
        return {
          said: `“${body.title}” is changed.`,
          undo: () => changeDuty(id, bodyOf(duty as Duty)),
        }
      }
      const made = await addDuty(stationId, checked.data)
      return { said: `“${body.title}” is a duty now.`, undo: () => deleteDuty(made) }
    })
    if (kept) onClose()
  }
  return (
    <Dialog title={id === null ? 'New duty' : 'Change the duty'} onClose={onClose}>
      <form
        className="grid gap-3 sm:grid-cols-2"
        onSubmit={(event) => {
          event.preventDefault()
          void save()
        }}
      >
        <div className="sm:col-span-2">
          <TextField
            label="What is to be done"
            value={body.title}
            onChange={(title) => set({ title })}
          />
        </div>
        <ChoiceField
          label="For"
          value={
            body.chainId !== null
              ? `chain ${body.chainId}`
              : body.thingId !== null
                ? `thing ${body.thingId}`
                : ''
          }
          options={[
            { value: '', label: 'the whole station' },
            ...station.chains.map((each) => ({ value: `chain ${each.id}`, label: each.name })),
            ...things.map((each) => ({
              value: `thing ${each.id}`,
              label: `${each.mark} ${each.name}`,
            })),
          ]}
          onChange={(value) => {
            const [kind, of = null] = value.split(' ')
            set({
              chainId: kind === 'chain' ? of : null,
              thingId: kind === 'thing' ? of : null,
              // A channel is one of its chain's.
              ...(task.kind === 'reading' && { task: { kind: 'reading' } }),
            })
          }}
        />
        <ChoiceField
          label="It is done by"
          value={task.kind}
          options={kinds}
          hint={task.kind === 'plain' ? undefined : 'It counts by itself once it is in the record.'}
          onChange={(kind) => set({ task: taskOf(kind) })}
        />
        {task.kind === 'sheet' && (
          <ChoiceField
            label="Run sheet"
            value={task.sheetId}
            options={sheetsOf(station).map(({ id: value, title: label }) => ({ value, label }))}
            onChange={(sheetId) => set({ task: { kind: 'sheet', sheetId } })}
          />
        )}
        {task.kind === 'bench' && (
          <ChoiceField<WorksheetKind>
            label="Bench sheet"
            value={task.worksheet}
            options={worksheetKinds.map((value) => ({ value, label: titleOf(value) }))}
            onChange={(worksheet) => set({ task: { kind: 'bench', worksheet } })}
          />
        )}
        {task.kind === 'reading' && chain && (
          <ChoiceField
            label="On"
            value={task.channelId ?? ''}
            options={[
              { value: '', label: 'any channel' },
              ...chain.document.channels.map(({ id: value, name, frequencyHz }) => ({
                value,
                label: name ?? formatFrequency(frequencyHz),
              })),
            ]}
            onChange={(channelId) =>
              set({ task: { kind: 'reading', ...(channelId && { channelId }) } })
            }
          />
        )}
        <OptionalField
          label="Every so many months"
          value={body.months}
          unit="months"
          min={1}
          max={240}
          whole
          onChange={(months) => set({ months })}
          hint="Empty where it only follows an event."
        />
        <label className="block text-xs text-muted">
          After an event in the log with the word
          <input
            className="field mt-0.5"
            maxLength={40}
            placeholder="storm"
            value={body.afterEvent ?? ''}
            onChange={({ target }) => set({ afterEvent: target.value || null })}
          />
        </label>
        <DateField
          label="Due for the first time, where the record has none yet"
          value={body.from}
          onChange={(from) => set({ from })}
        />
        <label className="block text-xs text-muted sm:col-span-2">
          Note
          <textarea
            className="field mt-0.5"
            rows={2}
            maxLength={2000}
            value={body.note}
            onChange={({ target }) => set({ note: target.value })}
          />
        </label>
        <div className="sm:col-span-2">
          <Problem text={problem} />
        </div>
        <div className="flex flex-wrap gap-2 sm:col-span-2">
          <button type="submit" className="button button-main">
            {id === null ? 'Add it' : 'Keep'}
          </button>
          {onDelete && (
            <button type="button" className="button" onClick={onDelete}>
              <Trash2 size={14} aria-hidden /> Delete
            </button>
          )}
        </div>
      </form>
      {duty && 'marks' in duty && duty.marks.length > 0 && (
        <section aria-label="On record" className="mt-4 text-sm">
          <h3 className="font-bold">On record</h3>
          <ul>
            {duty.marks.map((mark) => (
              <li key={mark.id} className="border-t border-rule py-1">
                {mark.kind === 'done' ? 'done on' : 'put off until'} {mark.on}
                {mark.reason && `: ${mark.reason}`}
              </li>
            ))}
          </ul>
        </section>
      )}
    </Dialog>
  )
}
