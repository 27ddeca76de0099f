/** What is typed at the shell, and what is printed there. */
import { cableClasses } from '@saltline/core'
import { describe, expect, test } from 'vitest'
import { cableOf, chainOf, frequencyOf, lengthOf, sectionOf } from '../cli/read.ts'
import { csv, table } from '../cli/say.ts'
import { serviceUnit } from '../cli/service.ts'

describe('a cable at the shell', () => {
  test.each(cableClasses.map((of) => [of.id, of] as const))(
    '%s is found by its identity, its name, and each of its markings',
    (id, { name, jacketMarkings }) => {
      for (const text of [id, name, name.toUpperCase()]) expect(cableOf(text).id).toBe(id)
      for (const marking of jacketMarkings) {
        // A marking that two classes share is asked about, and never taken for another cable.
        const others = cableClasses.filter((other) => other.jacketMarkings.includes(marking))
        if (others.length === 1) expect(cableOf(marking).id).toBe(id)
        else expect(() => cableOf(marking)).toThrow(/may be .* or /)
      }
    },
  )

  test('what is none, or may be several, is refused with what there is', () => {
    expect(() => cableOf('garden hose')).toThrow(/no cable that is known/)
    expect(() => cableOf('foam')).toThrow(/may be .* or .*: write one of them/)
  })

  test('a section is a cable and a length', () => {
    expect(sectionOf('RG-213: 100 ft')).toMatchObject({ cable: { id: 'pe-10' }, lengthM: 30.48 })
    expect(() => sectionOf('RG-213')).toThrow(/a colon and a length/)
    expect(() => sectionOf('RG-213:far')).toThrow(/--length far/)
  })
})

test('quantities are read as the fields read them; a refusal names the option', () => {
  expect(lengthOf('40 ft')).toBeCloseTo(12.192, 9)
  expect(frequencyOf('8294 kHz')).toBe(8.294e6)
  expect(() => frequencyOf('8294')).toThrow(/^--frequency 8294: /)
  expect(() => lengthOf('-1 m')).toThrow(/^--length -1 m: /)
  // A point that may group thousands is not decided here.
  expect(() => lengthOf('1,500')).toThrow(/may be 1\.5.m or 1500.m/)
})

test('a file that cannot be read, or is none, is named', async () => {
  await expect(chainOf('/nowhere/chain.json')).rejects.toThrow(
    /“\/nowhere\/chain.json” cannot be read/,
  )
  await expect(chainOf(import.meta.filename)).rejects.toThrow(/is no JSON/)
})

test('tables stand in columns, and commas in quotes', () => {
  expect(
    table(
      ['name', 'W'],
      [
        ['a', '5.0 W'],
        ['long', '12 W'],
      ],
    ),
  ).toBe('name      W\na     5.0 W\nlong   12 W')
  expect(csv(['a', 'b'], [['x, "y"', 1]])).toBe('a,b\r\n"x, ""y""",1')
})

test('a unit quotes what systemd would take apart', () => {
  const unit = serviceUnit(
    ['/usr/bin/node', '/opt/my apps/50%/cli.mjs', 'serve'],
    '/srv/salt/a.sqlite',
  )
  expect(unit).toContain('ExecStart=/usr/bin/node "/opt/my apps/50%%/cli.mjs" serve\n')
  expect(unit).toContain('ReadWritePaths=/srv/salt\n')
  expect(unit).toMatch(/^\[Unit\][^]*\[Service\][^]*\[Install\]/)
})
