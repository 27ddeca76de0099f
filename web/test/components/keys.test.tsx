/** Keys of the page: what a chord does, and when it is left to what is typed. */
import { cleanup, render, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, describe, expect, test } from 'vitest'
import { shortcuts, useKeys } from '../../src/shell/keys.ts'

afterEach(cleanup)

const pressed: string[] = []
const binding = (name: string) => () => void pressed.push(name)
const bindings = {
  e: binding('e'),
  '1': binding('1'),
  '?': binding('?'),
  'ctrl+z': binding('undo'),
  'ctrl+shift+z': binding('redo'),
  'ctrl+k': binding('find'),
  Escape: binding('escape'),
}

function Page({ dialog = false }: { dialog?: boolean }) {
  useKeys(bindings)
  return (
    <>
      <input aria-label="field" />
      <textarea aria-label="note" />
      <button type="button">button</button>
      {dialog && <div role="dialog" />}
    </>
  )
}

function shown(dialog = false) {
  pressed.length = 0
  const view = render(<Page dialog={dialog} />)
  return { user: userEvent.setup(), ...view }
}

describe('a key', () => {
  test.each([
    ['e', ['e']],
    ['E', ['e']],
    ['1', ['1']],
    ['?', ['?']],
    ['{Control>}z{/Control}', ['undo']],
    ['{Meta>}z{/Meta}', ['undo']],
    ['{Control>}{Shift>}z{/Shift}{/Control}', ['redo']],
    ['{Control>}k{/Control}', ['find']],
    ['{Escape}', ['escape']],
    ['{Alt>}e{/Alt}', []],
    ['x', []],
    ['{Control>}e{/Control}', []],
  ])('%s', async (keys, expected) => {
    const { user } = shown()
    await user.keyboard(keys)
    expect(pressed).toEqual(expected)
  })

  test.each(['field', 'note'])(
    'in the %s is what is typed, but for finding and leaving',
    async (label) => {
      const { user } = shown()
      const input = screen.getByLabelText<HTMLInputElement>(label)
      await user.type(input, 'e1')
      expect(pressed).toEqual([])
      expect(input.value).toBe('e1')
      await user.keyboard('{Control>}z{/Control}')
      expect(pressed).toEqual([])
      await user.keyboard('{Control>}k{/Control}')
      expect(pressed).toEqual(['find'])
      input.focus()
      await user.keyboard('{Escape}')
      expect(pressed).toEqual(['find', 'escape'])
      expect(document.activeElement).not.toBe(input)
      await user.keyboard('e')
      expect(pressed.at(-1)).toBe('e')
    },
  )

  test('on a button is the page’s', async () => {
    const { user } = shown()
    screen.getByRole('button').focus()
    await user.keyboard('e')
    expect(pressed).toEqual(['e'])
  })

  test('is left alone while a dialog is open, and when the page has gone', async () => {
    const { user, unmount } = shown(true)
    await user.keyboard('e{Escape}')
    expect(pressed).toEqual([])
    unmount()
    await user.keyboard('e')
    expect(pressed).toEqual([])
  })
})

test('each key stands once in its list', () => {
  for (const { list, where } of shortcuts) {
    expect(where).not.toBe('')
    expect(new Set(list.map(({ keys }) => keys)).size).toBe(list.length)
    for (const { what } of list) expect(what).not.toBe('')
  }
})
