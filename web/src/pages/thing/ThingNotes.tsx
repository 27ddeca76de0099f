import { dayText, type Thing, type ThingNoteBody, thingNoteKinds } from '@saltline/contract'
import { Trash2 } from 'lucide-react'
import { useState } from 'react'
import { act } from '../../platform/act.ts'
import { removeNoteOnThing } from '../../platform/api/thingQueries.ts'
import { enterThingNote } from '../../platform/outbox/enter.ts'
import { today } from '../../platform/today.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'

const kindWords = { repair: 'Repair', calibration: 'Calibration', other: 'Other' } as const

/** What happened to a thing: repairs, calibrations. */
export function ThingNotes({ thing }: { thing: Thing }) {
  const [kind, setKind] = useState<ThingNoteBody['kind']>('repair')
  const [on, setOn] = useState(today)
  const [text, setText] = useState('')
  const add = () =>
    void act(async () => {
      const { waits, undo } = await enterThingNote(thing, { kind, on, text: text.trim() })
      setText('')
      return { said: waits ? 'Noted; it waits for the server.' : 'Noted.', undo }
    })
  return (
    <section aria-label="What happened to it">
      <h3 className="border-b border-ink pb-1 font-bold">What happened to it</h3>
      <ul>
        {thing.notes.map((note) => (
          <li key={note.id} className="flex items-baseline gap-3 border-b border-rule py-1 text-sm">
            <span className="w-24 shrink-0 text-muted">{dayText(note.on)}</span>
            <span className="flex-1">
              <b>{kindWords[note.kind]}</b>: {note.text}
            </span>
            <button
              type="button"
              className="quiet"
              aria-label={`Delete the note of ${dayText(note.on)}: ${note.text}`}
              onClick={() =>
                void act(async () => {
                  await removeNoteOnThing(thing.id, note.id)
                  return {
                    said: 'The note is deleted.',
                    undo: async () => void (await enterThingNote(thing, note)),
                  }
                })
              }
            >
              <Trash2 size={14} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
      <form
        className="mt-2 flex flex-wrap items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          if (text.trim() !== '' && on !== '') add()
        }}
      >
        <ChoiceField
          label="Kind"
          value={kind}
          options={thingNoteKinds.map((value) => ({ value, label: kindWords[value] }))}
          onChange={setKind}
        />
        <label className="text-xs text-muted">
          On
          <input
            type="date"
            className="field mt-0.5 text-sm"
            value={on}
            onChange={({ target }) => setOn(target.value)}
          />
        </label>
        <label className="min-w-52 flex-1 text-xs text-muted">
          What was done
          <input
            className="field mt-0.5 w-full text-sm"
            maxLength={200}
            placeholder="new connector at the far end"
            value={text}
            onChange={({ target }) => setText(target.value)}
          />
        </label>
        <button type="submit" className="button" disabled={text.trim() === '' || on === ''}>
          Note it
        </button>
      </form>
    </section>
  )
}
