import { type Paper, paperOf } from '../../ui/paper.ts'

/** Papers that the card is made for. All are about as wide, so that it reads the same on each. */
export const papers: readonly [Paper, ...Paper[]] = [
  paperOf('a5 across', 9),
  paperOf('a4', 9),
  paperOf('letter', 9),
]

/** A row of the card with everything in it, and what stands above and below the rows, mm at a scale of 1. */
const ROW_MM = 19.5
const REST_MM = 40
/** Larger than this no line fits the width any more. */
const LARGEST = 1.2

export interface Split {
  /** Of the type: a large sheet with few channels is read from further away. */
  scale: number
  /** Channels of each page. */
  pages: number[]
}

/** How so many channels go onto sheets of a paper. */
export function splitOn({ heightMm }: Paper, channels: number): Split {
  const most = Math.max(1, Math.floor((heightMm - REST_MM) / ROW_MM))
  const count = Math.max(1, Math.ceil(channels / most))
  // Evenly, so that no page has one channel alone.
  const pages = Array.from(
    { length: count },
    (_, i) => Math.floor(((i + 1) * channels) / count) - Math.floor((i * channels) / count),
  )
  const fits = heightMm / (Math.max(...pages) * ROW_MM + REST_MM)
  // Larger type breaks more lines.
  const spared = 0.9
  return { scale: Math.min(LARGEST, Math.max(1, fits * spared)), pages }
}
