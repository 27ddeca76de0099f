import { cleanup, render, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { useState } from 'react'
import { afterEach, describe, expect, test } from 'vitest'
import { NumberInput } from '../../src/ui/NumberInput.tsx'

afterEach(cleanup)

interface Setting {
  start?: number | null
  optional?: boolean
  whole?: boolean
}

/** A field of watts, and the figure that the document has. */
function Field({ start = 125, optional = false, whole = false }: Setting) {
  const [value, setValue] = useState<number | null>(start)
  return (
    <>
      <NumberInput
        label="Power"
        value={value}
        onChange={setValue}
        optional={optional}
        whole={whole}
        dimension="power"
        unit="W"
        show={String}
        step={5}
        min={0}
        max={2000}
      />
      <output aria-label="document">{String(value)}</output>
    </>
  )
}

function shown(setting: Setting = {}) {
  render(<Field {...setting} />)
  const input = screen.getByLabelText<HTMLInputElement>('Power, W')
  const kept = () => screen.getByLabelText('document').textContent
  return { user: userEvent.setup(), input, kept }
}

const retype = async ({ user, input }: ReturnType<typeof shown>, text: string) => {
  await user.clear(input)
  await user.type(input, text)
}

describe('a number field', () => {
  test('takes a prefix and says what it understood', async () => {
    const field = shown()
    await retype(field, '1.2 kW')
    expect(field.kept()).toBe('1200')
    expect(screen.getByText(/^= 1200.W$/)).toBeTruthy()
  })

  test('a figure that cannot be read puts the one before it back, and says why', async () => {
    const field = shown()
    await retype(field, '80 apples')
    expect(field.kept()).toBe('125')
    expect(field.input.getAttribute('aria-invalid')).toBe('true')
    const help = document.getElementById(field.input.getAttribute('aria-describedby')!)
    expect(help!.textContent).toMatch(/⚠/)
  })

  test('a wrong figure stays in the field when it is left, so that it can be corrected', async () => {
    const field = shown()
    await retype(field, '9000')
    await field.user.tab()
    expect(field.input.value).toBe('9000')
    expect(field.kept()).toBe('125')
  })

  test('Escape takes back what was typed', async () => {
    const field = shown()
    await retype(field, '80')
    expect(field.kept()).toBe('80')
    await field.user.keyboard('{Escape}')
    expect(field.kept()).toBe('125')
    expect(field.input.value).toBe('125')
  })

  test('where a comma may group thousands, nothing is taken until one reading is chosen', async () => {
    const field = shown()
    await retype(field, '1,500')
    expect(field.kept()).toBe('125')
    await field.user.click(screen.getByRole('button', { name: /^1500/ }))
    expect(field.kept()).toBe('1500')
    expect(field.input.value).toBe('1500')
  })

  test.each([
    ['{ArrowUp}', '130'],
    ['{ArrowDown}', '120'],
    ['{Shift>}{ArrowUp}{/Shift}', '175'],
    ['{Alt>}{ArrowUp}{/Alt}', '125.5'],
  ])('%s steps to %s', async (keys, value) => {
    const field = shown()
    await field.user.click(field.input)
    await field.user.keyboard(keys)
    expect(field.kept()).toBe(value)
  })

  test('steps end at the bounds', async () => {
    const field = shown({ start: 3 })
    await field.user.click(field.input)
    await field.user.keyboard('{ArrowDown}')
    expect(field.kept()).toBe('0')
  })

  test('emptied: nothing where it may be left open, else what was there', async () => {
    const open = shown({ optional: true })
    await open.user.clear(open.input)
    expect(open.kept()).toBe('null')
    cleanup()
    const needed = shown()
    await needed.user.clear(needed.input)
    expect(needed.kept()).toBe('125')
    expect(needed.input.getAttribute('aria-invalid')).toBe('true')
  })

  test('a whole number is asked for where it must be one', async () => {
    const field = shown({ whole: true })
    await retype(field, '2.5')
    expect(screen.getByText(/whole number/)).toBeTruthy()
    expect(field.kept()).toBe('125')
  })
})
