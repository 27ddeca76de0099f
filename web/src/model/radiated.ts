/** Radiated power of a channel, where the antenna's gain is known. */
import type { ChainDocument, ChannelDocument } from '@saltline/contract'
import { decimals, gainAt, type RadiatedKind, radiatedW, type Range } from '@saltline/core'

export interface Radiated {
  /** As the licence speaks of it; EIRP where it does not. */
  kind: RadiatedKind
  watts: number
  range?: Range
}

/** @returns null where no gain is given for the channel's frequency */
export function radiatedOf(
  document: Pick<ChainDocument, 'antennaGainDbi' | 'antennaGains' | 'licence'>,
  { frequencyHz }: Pick<ChannelDocument, 'frequencyHz'>,
  antennaW: number,
  range?: Range,
): Radiated | null {
  const dbi = gainAt(document, frequencyHz)
  if (dbi === undefined) return null
  const kind = document.licence?.kind === 'ERP' ? 'ERP' : 'EIRP'
  const of = (watts: number) => radiatedW(watts, dbi, kind)
  return {
    kind,
    watts: of(antennaW),
    ...(range && { range: { low: of(range.low), high: of(range.high) } }),
  }
}

/** Watts as decibels over one watt, as licences often have them. */
export const dbwText = (watts: number): string =>
  watts > 0 ? `${decimals(10 * Math.log10(watts), 1)}\u00a0dBW` : 'none'
