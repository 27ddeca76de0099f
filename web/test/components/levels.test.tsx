// @vitest-environment happy-dom
import { formatPower } from '@saltline/core'
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { useState } from 'react'
import { afterEach, expect, test } from 'vitest'
import { setPreferences } from '../../src/platform/preferences.ts'
import { LevelField, PowerField, ReadField } from '../../src/ui/quantities.tsx'

afterEach(() => {
  cleanup()
  setPreferences({ power: 'W' })
})

function show(Field: typeof LevelField, begin: number) {
  let latest = begin
  function Page() {
    const [watts, setWatts] = useState(begin)
    latest = watts
    return <Field label="Set power" value={watts} onChange={setWatts} />
  }
  render(<Page />)
  return () => latest
}
const field = (unit: string) => screen.getByLabelText<HTMLInputElement>(`Set power, ${unit}`)
const type = (input: HTMLInputElement, text: string) =>
  fireEvent.change(input, { target: { value: text } })

test('a level is typed and shown in dBm once that is chosen; its unit is part of its name', () => {
  setPreferences({ power: 'dBm' })
  const watts = show(LevelField, 100)
  expect(field('dBm').value).toBe('50')
  type(field('dBm'), '46.02')
  expect(watts()).toBeCloseTo(40, 1)
  // A unit behind the number goes first.
  type(field('dBm'), '25 W')
  expect(watts()).toBe(25)
  fireEvent.blur(field('dBm'))
  fireEvent.keyDown(field('dBm'), { key: 'ArrowUp' })
  expect(10 * Math.log10(watts() / 25)).toBeCloseTo(0.1, 2)
})

test('in watts it is as it was, and a rating stays in watts whatever is chosen', () => {
  const watts = show(LevelField, 100)
  type(field('W'), '46')
  expect(watts()).toBe(46)
  cleanup()
  setPreferences({ power: 'dBm' })
  const rated = show(PowerField, 100)
  type(field('W'), '46')
  expect(rated()).toBe(46)
})

test('what a meter shows may be nothing: that has no level', () => {
  setPreferences({ power: 'dBm' })
  const read: (number | null)[] = []
  render(<ReadField label="Reflected" value={0} onChange={(value) => read.push(value)} />)
  const input = screen.getByLabelText<HTMLInputElement>('Reflected, dBm')
  expect(input.value).toBe('0 W')
  type(input, '20')
  type(input, '')
  expect(read[0]).toBeCloseTo(0.1, 9)
  expect(read.at(-1)).toBeNull()
  expect(formatPower(1e-16, 'dBm')).toBe('none')
  expect(formatPower(1e-13, 'dBm').replaceAll('\u00a0', ' ')).toMatch(/^.100\.0 dBm$/)
})
