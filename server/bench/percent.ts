/** A share in per cent; – of nothing. */
export const percent = (part: number, whole: number): string =>
  whole > 0 ? `${((100 * part) / whole).toFixed(1)} %` : '–'
