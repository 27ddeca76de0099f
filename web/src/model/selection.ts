/** What is picked out on the spine; it travels in the address as `?select=stage:duct`. */
export type Selection =
  | { kind: 'transmitter' }
  | { kind: 'antenna' }
  | { kind: 'channel' }
  | { kind: 'stage'; id: string }
  | { kind: 'plane'; index: number }

export function readSelection(text: string | null): Selection | null {
  const [kind, value] = (text ?? '').split(':')
  switch (kind) {
    case 'transmitter':
    case 'antenna':
    case 'channel':
      return { kind }
    case 'stage':
      return value ? { kind, id: value } : null
    case 'plane':
      return value !== undefined && /^\d+$/.test(value) ? { kind, index: Number(value) } : null
    default:
      return null
  }
}

export function writeSelection(selection: Selection): string {
  if (selection.kind === 'stage') return `stage:${selection.id}`
  if (selection.kind === 'plane') return `plane:${selection.index}`
  return selection.kind
}
