/**
 * A Kaiser window (Kaiser & Schafer 1980): weights that fall toward the ends of a band, so that a strong reflection does not
 * hide a weak one beside it under its side lobes.
 *
 * @param beta 0 is no window; 6 keeps side lobes 44 dB down
 * @example kaiser(3, 0) // [1, 1, 1]
 */
export function kaiser(count: number, beta: number): Float64Array {
  const top = besselI0(beta)
  return Float64Array.from({ length: count }, (_, i) => {
    const x = count > 1 ? (2 * i) / (count - 1) - 1 : 0
    return besselI0(beta * Math.sqrt(Math.max(0, 1 - x * x))) / top
  })
}

/** The modified Bessel function of the first kind and order 0, by its series (Abramowitz & Stegun 9.6.10). */
function besselI0(x: number): number {
  const quarter = (x * x) / 4
  let sum = 1
  let term = 1
  for (let k = 1; term > 1e-16 * sum; k++) {
    term *= quarter / (k * k)
    sum += term
  }
  return sum
}

/**
 * How wide a lone reflection is drawn, s: between the points at half its height.
 *
 * @param window weights of points that are `stepHz` apart
 */
export function widthOf(window: Float64Array, stepHz: number): number {
  const n = window.length
  const total = window.reduce((sum, w) => sum + w, 0)
  const heightAt = (time: number): number => {
    let re = 0
    for (let i = 0; i < n; i++)
      re += window[i]! * Math.cos(2 * Math.PI * (i - (n - 1) / 2) * stepHz * time)
    return Math.abs(re) / total
  }
  // Half height lies between nothing and the first zero, which no window has beyond the whole of the span times four.
  let low = 0
  let high = 4 / (stepHz * (n - 1))
  for (let k = 0; k < 50; k++) {
    const middle = (low + high) / 2
    if (heightAt(middle) > 0.5) low = middle
    else high = middle
  }
  return low + high
}
