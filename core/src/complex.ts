/** A complex number, in whatever unit its name says. */
export interface Complex {
  re: number
  im: number
}

/**
 * re + j·im.
 *
 * @example complex(3, 4) // { re: 3, im: 4 }
 */
export const complex = (re: number, im = 0): Complex => ({ re, im })

/**
 * |z|; does not overflow.
 *
 * @example magnitude({ re: 3, im: 4 }) // 5
 */
export const magnitude = (z: Complex): number => Math.hypot(z.re, z.im)

/** a · b. */
export const multiply = (a: Complex, b: Complex): Complex => ({
  re: a.re * b.re - a.im * b.im,
  im: a.re * b.im + a.im * b.re,
})

/** a / b. Division by zero gives infinities, as an open circuit should. */
export const divide = (a: Complex, b: Complex): Complex => {
  const d = b.re * b.re + b.im * b.im
  return { re: (a.re * b.re + a.im * b.im) / d, im: (a.im * b.re - a.re * b.im) / d }
}

/** a + b. */
export const add = (a: Complex, b: Complex): Complex => ({ re: a.re + b.re, im: a.im + b.im })

/** a − b. */
export const subtract = (a: Complex, b: Complex): Complex => ({ re: a.re - b.re, im: a.im - b.im })
