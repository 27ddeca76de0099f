/** What commands print, and how they fail. */

/** Something the person at the keyboard can put right: it is said without a stack. */
export class Refusal extends Error {
  override readonly name = 'Refusal'
}

/** Prints lines on standard output. */
export const say = (...lines: string[]): void => void process.stdout.write(lines.join('\n') + '\n')

/** Prints something that a program may read. */
export const sayJson = (value: unknown): void => say(JSON.stringify(value, null, 2))

/** A table with its columns below each other; figures stand to the right. */
export function table(head: readonly string[], rows: readonly (readonly string[])[]): string {
  const all = [head, ...rows]
  const widths = head.map((_, c) => Math.max(...all.map((row) => row[c]!.length)))
  const isFigure = (c: number) =>
    rows.every((row) => /^([−+-]?[\d.,]+(\s\S{1,3})?(\sto\s.*)?)?$/.test(row[c]!))
  return all
    .map((row) =>
      row
        .map((cell, c) => (isFigure(c) ? cell.padStart(widths[c]!) : cell.padEnd(widths[c]!)))
        .join('  ')
        .trimEnd(),
    )
    .join('\n')
}

/** The same with commas (RFC 4180). */
export const csv = (
  head: readonly string[],
  rows: readonly (readonly (string | number)[])[],
): string =>
  [head, ...rows]
    .map((row) =>
      row
        .map((cell) =>
          /[",\n]/.test(String(cell)) ? `"${String(cell).replaceAll('"', '""')}"` : String(cell),
        )
        .join(','),
    )
    .join('\r\n')
