/** Power that an antenna radiates in its best direction, as licences speak of it. */

/** A dipole’s gain over isotropic: ERP is that much less than EIRP. */
const DIPOLE_DBI = 2.15

/** EIRP compares with an isotropic radiator, ERP with a half-wave dipole (ITU Radio Regulations 1.161 and 1.162). */
export type RadiatedKind = 'EIRP' | 'ERP'

export interface AntennaGain {
  /** Over isotropic, on every frequency that no band names. */
  antennaGainDbi?: number | undefined
  /** Over isotropic, band by band. */
  antennaGains?: readonly { lowHz: number; highHz: number; dbi: number }[] | undefined
}

/**
 * Gain of an antenna on a frequency, dBi; undefined where none is given.
 *
 * @example gainAt({ antennaGainDbi: 2.15, antennaGains: [{ lowHz: 7e6, highHz: 7.3e6, dbi: 5 }] }, 7.1e6) // 5
 */
export const gainAt = ({ antennaGainDbi, antennaGains = [] }: AntennaGain, hz: number) =>
  bandAt(antennaGains, hz)?.dbi ?? antennaGainDbi

/** The first of some bands that a frequency lies in. */
export const bandAt = <B extends { lowHz: number; highHz: number }>(
  bands: readonly B[],
  hz: number,
): B | undefined => bands.find(({ lowHz, highHz }) => hz >= lowHz && hz <= highHz)

/**
 * Radiated power, W, of a power at the antenna, W.
 *
 * @example radiatedW(100, 2.15, 'ERP') // 100
 */
export const radiatedW = (antennaW: number, dbi: number, kind: RadiatedKind): number =>
  antennaW * 10 ** ((kind === 'ERP' ? dbi - DIPOLE_DBI : dbi) / 10)

/**
 * The highest average over any window of a given length, W, of transmissions with pauses as long as they are. Exposure rules
 * average over 6 minutes or 30 (ICNIRP 2020, tables 5 and 6); which of them applies is for the local assessment.
 *
 * @param averageW over a transmission
 * @param longestOverS how long a transmission lasts at most, s; without it the window may be all transmission
 * @example windowAverageW(100, 180, 360) // 50
 * @example windowAverageW(100, 240, 360) // 66.67
 */
export function windowAverageW(
  averageW: number,
  longestOverS: number | undefined,
  windowS: number,
): number {
  if (longestOverS === undefined) return averageW
  // The window begins with a transmission: none that begins elsewhere holds more of them.
  const whole = Math.floor(windowS / (2 * longestOverS))
  const rest = windowS - whole * 2 * longestOverS
  return (averageW * (whole * longestOverS + Math.min(longestOverS, rest))) / windowS
}
