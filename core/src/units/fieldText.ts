/**
 * A number as a field shows it: the digits that matter, none that do not, and always one that
 * `parseQuantity` reads back as the same number.
 *
 * @param digits significant digits that are kept
 * @example fieldText(10_000) // '10000'
 */
export const fieldText = (value: number, digits = 7): string =>
  Number.isFinite(value) ? String(Number(value.toPrecision(digits))) : ''
