/** JSON values whose shape only their maker knows: bounded in depth and size, and their texts plain. */
import { plainText } from './text.ts'

const DEEPEST = 6
const MOST_VALUES = 20_000
const MOST_CHARACTERS = 100_000

/** Why a value is not kept; null where nothing speaks against it. It is walked without recursion. */
export function whyNotPlain(value: unknown): string | null {
  const waiting: [value: unknown, depth: number][] = [[value, 0]]
  let values = 0
  let characters = 0
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const [current, depth] = next
    if (++values > MOST_VALUES) return 'A sheet may hold at most 20 000 values.'
    if (typeof current === 'string') {
      characters += current.length
      if (plainText(current) !== current.replace(/\r\n?/g, '\n'))
        return 'A text of the sheet holds characters that cannot be shown. Type it again.'
    } else if (typeof current === 'object' && current !== null) {
      if (depth >= DEEPEST) return 'The fields of a sheet are nested too deep.'
      for (const [name, inner] of Object.entries(current)) {
        characters += name.length
        waiting.push([inner, depth + 1])
      }
    }
    if (characters > MOST_CHARACTERS) return 'A sheet may hold at most 100 000 characters.'
  }
  return null
}
