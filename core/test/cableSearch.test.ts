import { expect, test } from 'vitest'
import { cableClasses, findsCable } from '../src/index.ts'

const found = (query: string): string[] =>
  cableClasses.filter((sheet) => findsCable({ ...sheet, sheet }, query)).map(({ id }) => id)

test.each([
  ['½ inch', ['superflex-13', 'corrugated-16']],
  ['1/2"', ['superflex-13', 'corrugated-16']],
  ['7/8', ['corrugated-28']],
  ['⅞ in', ['corrugated-28']],
  ['RG58', ['pe-5']],
  ['rg-58c/u', ['pe-5']],
  ['rg 213', ['pe-10']],
  ['rg213', ['pe-10']],
  ['16 mm', ['corrugated-16']],
  ['10 mm corrugated', ['corrugated-10']],
  ['corrugated', ['corrugated-10', 'superflex-13', 'corrugated-16', 'corrugated-28']],
])('“%s” finds these classes and no others', (query, ids) => expect(found(query)).toEqual(ids))

test('every class is found by its name and by each of its markings, spelt either way', () => {
  for (const sheet of cableClasses) {
    expect(found(sheet.name), sheet.name).toContain(sheet.id)
    for (const marking of sheet.jacketMarkings)
      for (const spelt of [
        marking,
        marking.toLowerCase(),
        marking.replace('-', ' '),
        marking.replace('-', ''),
      ])
        expect(found(spelt), spelt).toContain(sheet.id)
  }
})

test('nothing typed finds all, and nonsense none', () => {
  expect(found(' ')).toHaveLength(cableClasses.length)
  expect(found('herring')).toEqual([])
})
