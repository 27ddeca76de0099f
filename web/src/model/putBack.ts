/** Puts single fields of a document back to what they were. */
import type { ChainDocument } from '@saltline/contract'

type Node = Record<string, unknown> | unknown[]

const isNode = (value: unknown): value is Node => typeof value === 'object' && value !== null

/**
 * The document with the fields at some JSON pointers (RFC 6901) as they are in another one. A stage or
 * channel is found by its id, wherever it stands there; what the other one does not have goes. Without
 * pointers, the other document itself.
 */
export function putBack(
  document: ChainDocument,
  saved: ChainDocument,
  pointers: readonly string[],
): ChainDocument {
  if (pointers.length === 0) return saved
  const mended = structuredClone(document)
  for (const pointer of pointers) {
    const path = pointer
      .split('/')
      .slice(1)
      .map((part) => part.replace(/~1/g, '/').replace(/~0/g, '~'))
    if (path.length === 0) return saved
    restore(mended, saved, path)
  }
  return mended
}

function restore(target: Node, source: unknown, [part, ...rest]: string[]): void {
  if (part === undefined) return
  const own = (target as Record<string, unknown>)[part]
  const other = counterpart(own, source, part)
  if (rest.length > 0 && isNode(own) && isNode(other)) return restore(own, other, rest)
  if (other !== undefined) (target as Record<string, unknown>)[part] = structuredClone(other)
  else if (Array.isArray(target)) target.splice(Number(part), 1)
  else delete target[part]
}

/** What stands for a value in the other document: of a list's items with ids, the one with the same id. */
function counterpart(own: unknown, source: unknown, part: string): unknown {
  if (!isNode(source)) return undefined
  if (Array.isArray(source) && isNode(own) && 'id' in own)
    return source.find((item) => isNode(item) && (item as { id?: unknown }).id === own.id)
  return Object.hasOwn(source, part) ? (source as Record<string, unknown>)[part] : undefined
}
