/** What is typed while something to type into is still on the way. */
import { cleanup, render, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { useState } from 'react'
import { afterEach, expect, test, vi } from 'vitest'
import { TypedEarly, useTypedEarly } from '../../src/ui/TypedEarly.tsx'

afterEach(() => {
  vi.unstubAllGlobals()
  cleanup()
})

function Opened() {
  const [value, setValue] = useState('')
  useTypedEarly(setValue)
  return <input aria-label="find" value={value} onChange={(e) => setValue(e.target.value)} />
}

const page = (opened: boolean) => (opened ? <Opened /> : <TypedEarly />)

test('what was typed early comes first, whatever is typed into the field before it is handed over', async () => {
  // No frame comes between the focus and the keys.
  vi.stubGlobal('requestAnimationFrame', () => 0)
  const user = userEvent.setup()
  const { rerender } = render(page(false))
  await user.keyboard('rg 213')
  rerender(page(true))
  const field = screen.getByLabelText<HTMLInputElement>('find')
  field.focus()
  await user.keyboard('{Backspace}4')
  expect(field.value).toBe('rg 214')
})

test('Backspace takes away what was typed early, and a frame hands it over without a key', async () => {
  const user = userEvent.setup()
  const { rerender } = render(page(false))
  await user.keyboard('rgx{Backspace}')
  rerender(page(true))
  const field = screen.getByLabelText<HTMLInputElement>('find')
  field.focus()
  await vi.waitFor(() => expect(field.value).toBe('rg'))
  await user.keyboard('8')
  expect(field.value).toBe('rg8')
})
