/**
 * Files of measurements that are legal and odd, and what becomes of them when they are damaged: read, or refused in words;
 * never half-read, never a figure that is none.
 */
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { InputError, OutOfRangeError } from '../src/errors.ts'
import { readSheetTable } from '../src/formats/sheetTable.ts'
import { sweepFromTable } from '../src/formats/sweepFromTable.ts'
import { guessMapping, readSweepTable } from '../src/formats/sweepTable.ts'
import { readTouchstone } from '../src/formats/touchstone.ts'
import { TouchstoneError } from '../src/formats/touchstoneRecords.ts'
import { readTwoPort } from '../src/formats/touchstoneTwoPort.ts'

const eight = '0.1 0 0.9 0 0.9 0 0.1 0'
const odd = {
  'from 0 Hz': '# MHz S RI R 50\n0 0.9 0\n1 0.1 0.2',
  'of one row': '# Hz S RI R 50\n7000000 0.2 0.1',
  'with equal rows': '# MHz S MA R 50\n7 0.5 10\n7 0.5 10\n8 0.4 20',
  'with remarks between':
    '! head\n# kHz S DB R 75\n! more\n7000 -10 5 ! here\n\n! tail\n8000 -12 6\n',
  'of Z in version 1': '# GHz Z RI R 50\n0.007 1 0.2\n0.008 1.1 0.3',
  'of version 2':
    '[Version] 2.0\n# MHz S RI R 50\n[Number of Ports] 1\n[Number of Frequencies] 2\n[Reference] 50\n[Network Data]\n0 0.9 0\n7 0.2 0\n[End]',
  'of two ports with noise': `# MHz S RI R 50\n7 ${eight}\n8 ${eight}\n7 1.5 0.3 10 0.2\n8 1.6 0.3 11 0.2`,
  'of two ports from 0 Hz': `# MHz S RI R 50\n0 ${eight}\n7 ${eight}`,
  'a table that falls': 'MHz;R;X\n8;60;-10\n7;50;0\n',
  'a table of SWR': 'Frequency (MHz),SWR\n7.0,1.5\n7.1,1.3\n7.2,1.9',
  'a table with decimal commas': 'MHz\tSWR\n7,05\t1,5\n7,10\t1,25',
}

const rising = (run: ArrayLike<number>) =>
  Array.from(run).every((hz, i) => hz > (i === 0 ? 0 : run[i - 1]!))
const finite = (run: ArrayLike<number>) => Array.from(run).every(Number.isFinite)
const said = (error: unknown) =>
  error instanceof TouchstoneError ||
  error instanceof InputError ||
  error instanceof OutOfRangeError

/** What is wrong with what a reader makes of a text; null where nothing is. */
function wrongWith(text: string): string | null {
  const readers: Record<string, () => boolean> = {
    'one port': () => {
      const { frequencyHz, re, im } = readTouchstone(text, 50)
      const passive = Array.from(re).every((value, i) => Math.hypot(value, im[i]!) <= 1 + 1e-12)
      return rising(frequencyHz) && finite(re) && finite(im) && passive && frequencyHz[0]! <= 1e12
    },
    'two ports': () => {
      const { frequencyHz, s } = readTwoPort(text, 50)
      return rising(frequencyHz) && finite(s) && s.length === 8 * frequencyHz.length
    },
    'a table': () => {
      const table = readSweepTable(text)
      const { sweep } = sweepFromTable(table, guessMapping(table), 50)
      return rising(sweep.frequencyHz) && finite(sweep.re) && finite(sweep.im)
    },
    'a data sheet': () => {
      readSheetTable(text, { per: '100 m', unit: 'MHz' })
      return true
    },
  }
  for (const [name, read] of Object.entries(readers)) {
    try {
      if (!read()) return `${name}: read, and not what a sweep is`
    } catch (error) {
      if (!said(error)) return `${name}: ${String(error)}`
    }
  }
  return null
}

const strange = [
  '0',
  '-1',
  '1e308',
  '-1e308',
  '1e12',
  '5e-324',
  'NaN',
  'inf',
  '1,5',
  '9'.repeat(50),
  '#',
  '[',
  '!',
  '"',
  '\t',
  ';',
  '\0',
  '∞',
  '0x10',
  '1e',
  '1:1',
  '.',
  '',
]

/** A few things happen to a file on its way: lines lost, doubled, swapped, words replaced, characters dropped. */
const damage = fc.record({
  kind: fc.constantFrom('drop line', 'double line', 'swap', 'word', 'cut', 'insert', 'scale'),
  at: fc.double({ min: 0, max: 1, noNaN: true, maxExcluded: true }),
  to: fc.double({ min: 0, max: 1, noNaN: true, maxExcluded: true }),
  what: fc.constantFrom(...strange),
})

function damaged(
  text: string,
  { kind, at, to, what }: { kind: string; at: number; to: number; what: string },
): string {
  const lines = text.split('\n')
  const [i, j] = [Math.floor(at * lines.length), Math.floor(to * lines.length)]
  switch (kind) {
    case 'drop line':
      return lines.toSpliced(i, 1).join('\n')
    case 'double line':
      return lines.toSpliced(j, 0, lines[i]!).join('\n')
    case 'swap':
      return lines.with(i, lines[j]!).with(j, lines[i]!).join('\n')
    case 'word': {
      const words = lines[i]!.split(/(\s+|[,;\t])/)
      return lines.with(i, words.with(Math.floor(to * words.length), what).join('')).join('\n')
    }
    case 'cut':
      return text.slice(0, Math.floor(at * text.length))
    case 'insert': {
      const place = Math.floor(at * text.length)
      return text.slice(0, place) + what + text.slice(place)
    }
    default:
      return text.replace(/\d+/, (digits) => digits + '0'.repeat(Math.floor(to * 320)))
  }
}

describe('a file that is legal and odd', () => {
  test('from 0 Hz, as simulators write them, is read from its next row, and says so', () => {
    const sweep = readTouchstone(odd['from 0 Hz'], 50)
    expect(Array.from(sweep.frequencyHz)).toEqual([1e6])
    expect([sweep.re[0], sweep.im[0]]).toEqual([0.1, 0.2])
    expect(sweep.comments).toContain('the row at 0 Hz was set aside')
    expect(Array.from(readTwoPort(odd['of two ports from 0 Hz'], 50).frequencyHz)).toEqual([7e6])
    expect(Array.from(readTouchstone(odd['of version 2'], 50).frequencyHz)).toEqual([7e6])
  })

  test('that has nothing but 0 Hz holds no data', () => {
    expect(() => readTouchstone('# MHz S RI R 50\n0 0.9 0', 50)).toThrow(/no data/)
  })

  test.each([
    ['# MHz S RI R 50\n1e308 0.1 0', /above 1000 GHz/],
    ['# MHz S RI R 50\n1e12 0.1 0', /above 1000 GHz/],
    ['# MHz S RI R 50\n7 1e300 0', /more than anything measures/],
    ['# MHz S RI R 1e300\n7 0.1 0', /no reference resistance/],
    ['# MHz S RI R 50\n-1 0.1 0', /must not be less than 0/],
    ['# MHz S DB R 50\n7 100000 0', /beyond all bounds|\|ρ\|/],
  ])('%j is refused', (text, words) => {
    expect(() => readTouchstone(text, 50)).toThrow(words)
  })

  test('a table beyond bounds is refused with its line', () => {
    const read = (text: string) => {
      const table = readSweepTable(text)
      return sweepFromTable(table, guessMapping(table), 50)
    }
    expect(() => read('MHz,SWR\n7,1.5\n1e9,1.5')).toThrow(/Line 3: the frequency/)
    expect(() => read('MHz,SWR\n7,1e300')).toThrow(/Line 2: 1e300 is more/)
  })

  test.each(Object.entries(odd))('%s', (_, text) => {
    expect(wrongWith(text)).toBeNull()
  })
})

test('whatever happens to a file, it is read or refused in words', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...Object.values(odd)),
      fc.array(damage, { minLength: 1, maxLength: 4 }),
      (text, damages) => {
        const file = damages.reduce(damaged, text)
        expect(wrongWith(file)).toBeNull()
      },
    ),
    // `npm run fuzz` goes round a few times: a million in all.
    {
      numRuns:
        process.env['SALTLINE_RUNS'] === undefined
          ? 2000
          : Number(process.env['SALTLINE_RUNS']) * 1000,
    },
  )
})
