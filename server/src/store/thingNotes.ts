/** Notes of what happened to a thing. */
import { idSchema, type KeptThing, type Thing, type ThingNoteBody } from '@saltline/contract'
import { eq } from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import { things } from '../db/schema.ts'
import { write } from '../db/writes.ts'
import { invalid, missing } from './errors.ts'
import { readThing, thingRow } from './things.ts'

/** Most notes that one thing has. */
const MOST_NOTES = 500

/** Keeps what happened to a thing, under the identity that it was given where it was noted. */
export async function keepThingNote(
  db: Database,
  id: string,
  noteId: string,
  note: ThingNoteBody,
): Promise<Thing> {
  if (!idSchema.safeParse(noteId).success) throw missing('note')
  const stationId = await changeNotes(db, id, (notes) => {
    if (notes.some((own) => own.id === noteId)) return notes
    if (notes.length >= MOST_NOTES)
      throw invalid(['text'], `A thing has ${MOST_NOTES} notes at most: delete some first.`)
    return [...notes, { ...note, id: noteId }]
  })
  return readThing(db, stationId, id)
}

export async function removeThingNote(db: Database, id: string, noteId: string): Promise<Thing> {
  const stationId = await changeNotes(db, id, (notes) => {
    const left = notes.filter((note) => note.id !== noteId)
    if (left.length === notes.length) throw missing('note')
    return left
  })
  return readThing(db, stationId, id)
}

type Notes = NonNullable<KeptThing['notes']>

const changeNotes = (db: Database, id: string, change: (notes: Notes) => Notes): Promise<string> =>
  write(db, async (tx) => {
    const { body, stationId } = await thingRow(tx, id)
    await tx
      .update(things)
      .set({ body: { ...body, notes: change(body.notes ?? []) } })
      .where(eq(things.id, id))
    return stationId
  })
