/** Ways back from what was done to the record, newest last: Ctrl + Z takes the newest, as the toast's button does. */
import { act, type Done } from './act.ts'

let ways: Required<Done>[] = []

/** Does something to the record that can be taken back. */
export const actOnRecord = (work: () => Promise<Required<Done>>): Promise<boolean> =>
  act(async () => {
    const done = await work()
    const way = {
      said: done.said,
      undo: async () => {
        ways = ways.filter((other) => other !== way)
        await done.undo()
      },
    }
    ways.push(way)
    return way
  })

/** The chain was edited: what is newest is not of the record any more. */
export const forgetWaysBack = (): void => void (ways = [])

/** @returns false where there is nothing of the record to take back */
export function takeBack(): boolean {
  const way = ways.at(-1)
  if (!way) return false
  void act(async () => {
    await way.undo()
    return { said: `Taken back: ${way.said}` }
  })
  return true
}
