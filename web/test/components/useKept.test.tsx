import { act, cleanup, renderHook } from '@testing-library/react'
import { afterEach, expect, test } from 'vitest'
import { forgetKept, useKept } from '../../src/platform/useKept.ts'

const BLANK = { watts: null as number | null, note: '' }
const held = () => renderHook(() => useKept('a', BLANK)).result

afterEach(() => {
  cleanup()
  sessionStorage.clear()
})

test('what is half typed is there when the view is opened again', () => {
  const typed = held()
  act(() => typed.current.put({ watts: 12 }))
  cleanup()
  expect(held().current.value).toEqual({ watts: 12, note: '' })
})

test('of what is as it was first nothing is kept, nor of what is emptied again', () => {
  const typed = held()
  expect(sessionStorage).toHaveLength(0)
  act(() => typed.current.put({ note: 'fog' }))
  expect(sessionStorage).toHaveLength(1)
  act(() => typed.current.put({ note: '' }))
  expect(sessionStorage).toHaveLength(0)
})

test('who signs out leaves nothing half typed, and nothing else is taken', () => {
  sessionStorage.setItem('other', 'stays')
  const typed = held()
  act(() => typed.current.put({ watts: 12 }))
  forgetKept()
  expect(Object.keys(sessionStorage)).toEqual(['other'])
})
