/** Figures that may be known or not: ratings of a part, points of a foldback, bands of a radio, a load's endurance. */
import type { ChainDocument } from '@saltline/contract'
import { fireEvent, screen } from '@testing-library/react'
import { describe, expect, test } from 'vitest'
import { insertStage, newStage } from '../../src/model/edits.ts'
import { AntennaPanel } from '../../src/panel/AntennaPanel.tsx'
import { StagePanel } from '../../src/panel/StagePanel.tsx'
import { TransmitterPanel } from '../../src/panel/TransmitterPanel.tsx'
import { document as fixture } from '../fixtures.ts'
import { problemsOf, showPanel, typeInto } from './panelHarness.tsx'

type Limits = NonNullable<ChainDocument['stages'][number]['limits']>

function stage(choice: string) {
  const panel = showPanel(
    insertStage(0, { ...newStage(choice, fixture), id: 'own' })(fixture),
    (props) => <StagePanel {...props} id="own" />,
  )
  const limits = (): Limits | undefined => panel.document().stages[0]!.limits
  return { ...panel, limits }
}

const withOwnLimits = ['line', 'connector', 'arrester', 'tuner', 'transformer', 'series', 'stub']

describe('ratings that the operator knows', () => {
  test.each(withOwnLimits)('%s: each is typed, and goes again', async (choice) => {
    const panel = stage(choice)
    expect(panel.limits()).toBeUndefined()
    const fields: [string, keyof Limits, number][] = [
      ['Rated voltage, RMS', 'voltageRms', 750],
      ['Average power', 'averageW', 400],
      ['Time constant', 'timeConstantS', 90],
      ...(choice === 'arrester'
        ? ([['Firing voltage, DC', 'firingVoltageDc', 350]] as [string, keyof Limits, number][])
        : []),
    ]
    for (const [label, key, figure] of fields) {
      await typeInto(panel, label, String(figure))
      expect(panel.limits()![key]).toBe(figure)
      expect(problemsOf(panel.document())).toEqual([])
    }
    for (const [label, key] of fields) {
      await panel.user.clear(screen.getByLabelText(new RegExp(`^${label}`)))
      expect(panel.limits()?.[key]).toBeUndefined()
    }
    // Without any there are no limits of its own, not an empty list of them.
    expect(panel.limits()).toBeUndefined()
  })

  test('what its class bears is said beside the empty field', () => {
    const { container } = stage('line')
    expect(container.textContent).toMatch(/its class: \d+\sV/)
  })

  test('only an arrester has a firing voltage', () => {
    stage('connector')
    expect(screen.queryByLabelText(/^Firing voltage/)).toBeNull()
  })
})

describe('a transmitter', () => {
  const shown = () => showPanel(fixture, TransmitterPanel)
  // Fast, since each press is the same.
  const press = (name: string) => fireEvent.click(screen.getByRole('button', { name }))

  test('takes points of foldback until there is no room for more, each beyond the one before', () => {
    const { document } = shown()
    const add = screen.getByRole<HTMLButtonElement>('button', { name: 'Add a point' })
    for (let i = 0; i < 60 && !add.disabled; i++) {
      press('Add a point')
      expect(problemsOf(document())).toEqual([])
    }
    const { foldback } = document().transmitter
    expect(add.disabled).toBe(true)
    expect(foldback.length).toBeGreaterThan(5)
    for (const [i, [swr, share]] of foldback.entries())
      if (i > 0) {
        expect(swr).toBeGreaterThan(foldback[i - 1]![0])
        expect(share).toBeLessThan(foldback[i - 1]![1])
      }
  })

  test('takes bands round the channel, twenty at most, and none is left where all are removed', () => {
    const { document, container } = shown()
    const add = [...container.querySelectorAll('button')].find(({ textContent }) =>
      /band/i.test(textContent ?? ''),
    )!
    fireEvent.click(add)
    expect(document().transmitter.bands).toEqual([
      {
        lowHz: expect.closeTo(4.146e6 * 0.95, 3) as number,
        highHz: expect.closeTo(4.146e6 * 1.05, 3) as number,
        ratedW: 100,
      },
    ])
    for (let i = 1; i < 25; i++) fireEvent.click(add)
    expect(document().transmitter.bands).toHaveLength(20)
    expect(add.disabled).toBe(true)
    for (let i = 0; i < 20; i++) press('Remove band 1')
    expect(document().transmitter.bands).toBeUndefined()
    expect(problemsOf(document())).toEqual([])
  })
})

describe('what an antenna or a load withstands', () => {
  const load = (more: object) => showPanel({ ...fixture, ...more } as ChainDocument, AntennaPanel)

  test('for a while is three times of what it does for ever, for ten minutes, until it is said', async () => {
    const { user, document } = load({ loadAverageW: 20 })
    await user.click(screen.getByLabelText('Intermittent power is known'))
    expect(document().loadBurst).toEqual({ watts: 60, minutes: 10 })
    await user.click(screen.getByLabelText('Intermittent power is known'))
    expect(document().loadBurst).toBeUndefined()
    expect(document().loadAverageW).toBe(20)
  })

  test('what is not known for ever is not known for a while', () => {
    load({})
    expect(screen.queryByLabelText('Intermittent power is known')).toBeNull()
  })

  test('how long to key and to cool is said where it is too much for ever', async () => {
    const panel = load({ loadAverageW: 5, loadBurst: { watts: 60, minutes: 10 } })
    expect(screen.getByRole('status').textContent).toMatch(
      /key for at most .* from cold, then let it cool for .*do not touch/,
    )
    await typeInto(panel, 'for', '4')
    expect(panel.document().loadBurst).toEqual({ watts: 60, minutes: 4 })
  })
})
