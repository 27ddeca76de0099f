import {
  formatDb,
  formatPercent,
  formatPower,
  lossDb,
  type PowerUnit,
  type Range,
  rangeText,
} from '@saltline/core'

export { rangeText }

export const wattsText = (value: number, unit: PowerUnit, range?: Range): string =>
  rangeText(value, range, (w) => formatPower(w, unit))

/** A share of Monte Carlo samples, in words where it is none or all of them. */
export const ofSamples = (share: number): string =>
  share === 0
    ? 'none of the samples'
    : share === 1
      ? 'all samples'
      : `${formatPercent(share)} of the samples`

/** Output against the set power: −1.3 dB, or +9.6 dB where an amplifier adds. */
export function levelText(settingW: number, outputW: number, range?: Range): string {
  const least = range && lossDb(settingW, range.high)
  const most = range && lossDb(settingW, range.low)
  const db = lossDb(settingW, outputW)
  // Neither sign holds for all of a range that has both.
  if (least !== undefined && most !== undefined && least < 0 !== most < 0)
    return `+${formatDb(-least)} to −${formatDb(most)}`
  return db >= 0
    ? `−${rangeText(db, range && { low: least!, high: most! }, formatDb)}`
    : `+${rangeText(-db, range && { low: -most!, high: -least! }, formatDb)}`
}
