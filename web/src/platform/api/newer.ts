/** Whether the server has another build of the interface than this page: it was updated while the page was open. */
import { Store } from '../store.ts'

/** The build that an entry script belongs to: its name changes with what is in it. */
const buildOf = (address: string): string | null =>
  /\/assets\/(index-[\w-]+)\.js/.exec(address)?.[1] ?? null

const own = (): string | null =>
  buildOf(document.querySelector<HTMLScriptElement>('script[type=module][src]')?.src ?? '')

export const serverIsNewer = new Store(false)

/** Compares what an answer says of the server's interface with this page. */
export function noteInterface(said: string | null): void {
  // Neither a server of the API alone nor a page in development says anything.
  const here = said === null ? null : own()
  if (here === null) return
  if (serverIsNewer.get() !== (said !== here)) serverIsNewer.set(said !== here)
}
