// @vitest-environment happy-dom
import { cableClasses } from '@saltline/core'
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { afterEach, expect, test, vi } from 'vitest'
import { CableField } from '../../src/panel/CableField.tsx'

afterEach(cleanup)
// The list of what was found scrolls to the one that is picked out.
Object.assign(Element.prototype, { scrollIntoView: () => undefined })
vi.stubGlobal(
  'ResizeObserver',
  class {
    observe() {}
    unobserve() {}
    disconnect() {}
  },
)

const nameOf = (id: string) => cableClasses.find((cable) => cable.id === id)!.name

test.each([
  ['½ inch', 'superflex-13'],
  ['7/8', 'corrugated-28'],
  ['RG58', 'pe-5'],
  ['rg 213', 'pe-10'],
])(
  '%s finds its class in the choice of a cable; Enter takes the first',
  async (typed, expected) => {
    const picked: string[] = []
    render(<CableField value="" frequencyHz={7.1e6} onChange={(id) => picked.push(id)} />)
    const button = screen.getByRole('button', { name: 'find by marking or size' })
    fireEvent.click(button)
    const input = await screen.findByRole('combobox', { name: 'Find a cable' }, { timeout: 60_000 })
    fireEvent.change(input, { target: { value: typed } })
    const options = [...document.querySelectorAll('[cmdk-item]')].map(
      ({ textContent }) => textContent,
    )
    expect(options.some((text) => text.startsWith(nameOf(expected)))).toBe(true)
    expect(options.length).toBeLessThan(6)
    fireEvent.keyDown(input, { key: 'Enter' })
    expect(picked).toHaveLength(1)
    expect(options[0]).toContain(nameOf(picked[0]!))
    expect(document.querySelector('[cmdk-input]')).toBeNull()
    await vi.waitFor(() => expect(document.activeElement).toBe(button))
  },
)
