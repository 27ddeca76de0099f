/**
 * What the core throws when an input cannot be computed with. `path` points into the input
 * (`['stages', 2, 'lengthM']`), `message` says what is wrong and what would cure it.
 */
export class InputError extends Error {
  override readonly name: string = 'InputError'
  constructor(
    message: string,
    readonly path: readonly (string | number)[] = [],
  ) {
    super(message)
  }

  /** The same error seen from one level further out. */
  within(...outer: (string | number)[]): InputError {
    return new InputError(this.message, [...outer, ...this.path])
  }
}

/** A frequency that a table of measurements does not cover. */
export class OutOfRangeError extends InputError {
  override readonly name = 'OutOfRangeError'
  constructor(
    message: string,
    readonly lowHz: number,
    readonly highHz: number,
    path: readonly (string | number)[] = [],
  ) {
    super(message, path)
  }

  override within(...outer: (string | number)[]): OutOfRangeError {
    return new OutOfRangeError(this.message, this.lowHz, this.highHz, [...outer, ...this.path])
  }
}
