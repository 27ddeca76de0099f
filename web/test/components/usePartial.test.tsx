/** What a task has so far is shown of the request that stands, and of no other. */
import { act, cleanup, render, screen } from '@testing-library/react'
import { afterEach, expect, test } from 'vitest'
import { usePartial } from '../../src/compute/useTask.ts'
import { Store } from '../../src/platform/store.ts'

afterEach(cleanup)

let renders = 0
const source = new Store<{ of: unknown; done: number; partial: string | undefined }>({
  ...{ of: null, done: 0, partial: undefined },
})

function Shown({ request }: { request: object }) {
  renders++
  return <p>{usePartial(source, request) ?? 'nothing'}</p>
}

test('a part of another request is not shown; progress alone renders nothing', () => {
  const [mine, other] = [{}, {}]
  const { rerender } = render(<Shown request={mine} />)
  const shown = () => screen.getByRole('paragraph').textContent
  expect(shown()).toBe('nothing')
  const before = renders
  act(() => source.set({ of: mine, done: 0.5, partial: undefined }))
  act(() => source.set({ of: other, done: 0.9, partial: 'theirs' }))
  expect(renders).toBe(before)
  act(() => source.set({ of: mine, done: 1, partial: 'mine' }))
  expect(shown()).toBe('mine')
  rerender(<Shown request={other} />)
  expect(shown()).toBe('nothing')
})
