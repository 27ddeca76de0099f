import { limits } from '@saltline/contract'
import { parseQuantity } from '@saltline/core'

export type Ranges = { ok: true; rangesW: number[] } | { ok: false; message: string }

/**
 * Full scales typed in one line: `5, 50, 500`, `5 W; 50 W; 1.5 kW`. Commas separate; one that may also
 * group thousands is asked about.
 */
export function readRanges(text: string): Ranges {
  const rangesW: number[] = []
  for (const part of text.split(/[;\n]|,(?=\s)|\s+(?=[\d.])/)) {
    if (part.trim() === '' || part.trim() === ',') continue
    const commas = part.split(',').length - 1
    if (commas === 1 && /^\s*[1-9]\d{0,2},\d{3}(?!\d)/.test(part))
      return {
        ok: false,
        message: `“${part.trim()}” may be one range or two: put a space after a comma that separates, and write thousands without one.`,
      }
    for (const one of part.split(',')) {
      if (one.trim() === '') continue
      const parsed = parseQuantity(one, 'power', 'W', {
        min: limits.rangeW[0],
        max: limits.rangeW[1],
      })
      if (!parsed.ok) return { ok: false, message: `Full scale “${one.trim()}”: ${parsed.message}` }
      rangesW.push(parsed.value)
    }
  }
  return { ok: true, rangesW }
}
