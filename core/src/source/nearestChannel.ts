/** Further away than this share of a frequency, a reading belongs to no channel. */
const SAME_CHANNEL = 0.002

export type Nearest<C> =
  | { kind: 'none' }
  | { kind: 'one'; channel: C }
  /** As near to both; the one on which it was read must be said. */
  | { kind: 'tie'; channels: [C, C, ...C[]] }

/**
 * The channel that a frequency belongs to: the nearest within 0.2 %. Several on one frequency, or as near
 * on either side, are a tie.
 *
 * @example nearestChannel([{ frequencyHz: 7e6 }, { frequencyHz: 14e6 }], 7.01e6)
 *   // { kind: 'one', channel: { frequencyHz: 7000000 } }
 */
export function nearestChannel<C extends { frequencyHz: number }>(
  channels: readonly C[],
  frequencyHz: number,
): Nearest<C> {
  const off = ({ frequencyHz: own }: C) => Math.abs(own - frequencyHz)
  const near = channels.filter((channel) => off(channel) <= SAME_CHANNEL * frequencyHz)
  if (near.length === 0) return { kind: 'none' }
  const least = Math.min(...near.map(off))
  // Frequencies are stated to a hertz.
  const nearest = near.filter((channel) => off(channel) - least < 1)
  return nearest.length === 1
    ? { kind: 'one', channel: nearest[0]! }
    : { kind: 'tie', channels: nearest as [C, C, ...C[]] }
}
