/** Whether the server’s database is damaged: every answer says so, and nothing is saved until a copy is restored. */
import { Store } from '../store.ts'

export const databaseIsDamaged = new Store(false)

/** @param said what an answer says of it */
export function noteDamage(said: string | null): void {
  const damaged = said !== null
  if (databaseIsDamaged.get() !== damaged) databaseIsDamaged.set(damaged)
}
