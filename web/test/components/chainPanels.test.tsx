/** The panels of transmitter, antenna and channel: each figure through its field. */
import type { ChainDocument, LoadDocument } from '@saltline/contract'
import { formatPower } from '@saltline/core'
import { screen } from '@testing-library/react'
import { describe, expect, test } from 'vitest'
import { answerChannel, chainOfDocument } from '../../src/model/answers.ts'
import { AntennaPanel } from '../../src/panel/AntennaPanel.tsx'
import { ChannelPanel } from '../../src/panel/ChannelPanel.tsx'
import { loadChoices } from '../../src/panel/loads.tsx'
import { TransmitterPanel } from '../../src/panel/TransmitterPanel.tsx'
import { document as fixture } from '../fixtures.ts'
import {
  figuresAreKept,
  kept,
  nonsenseIsSaid,
  problemsOf,
  showPanel,
  typeInto,
} from './panelHarness.tsx'

const loads: LoadDocument[] = [
  { kind: 'fixed', name: 'Vee', rOhm: 50, xOhm: 0 },
  { kind: 'swr', name: 'Vee', swr: 2 },
  { kind: 'resonator', name: 'Vee', resonanceHz: 4.1e6, rOhm: 50, q: 10 },
  {
    kind: 'resistors',
    name: 'Load',
    ohmEach: 500,
    count: 10,
    strayInductanceH: 5e-9,
    strayCapacitanceF: 2e-12,
  },
  {
    kind: 'bands',
    name: 'Vee',
    bands: [
      {
        readings: [
          { frequencyHz: 4e6, swr: 2 },
          { frequencyHz: 4.146e6, swr: 1.3 },
          { frequencyHz: 4.3e6, swr: 2.2 },
        ],
      },
    ],
  } as LoadDocument,
]
const antenna = (load: LoadDocument, more: Partial<ChainDocument> = {}) =>
  showPanel({ ...fixture, load, ...more }, AntennaPanel)
const transmitter = (more: object = {}) =>
  showPanel({ ...fixture, transmitter: { ...fixture.transmitter, ...more } }, TransmitterPanel)
const channel = (more: object = {}) =>
  showPanel(
    { ...fixture, channels: [{ ...fixture.channels[0]!, ...more }, fixture.channels[1]!] },
    ChannelPanel,
  )

describe('an antenna', () => {
  test.each(loads)('$kind: what cannot be read is said, and changes nothing', (load) =>
    nonsenseIsSaid(antenna(load, { loadAverageW: 100, loadBurst: { watts: 300, minutes: 10 } })),
  )
  test.each(loads)('$kind: a figure that is read is kept as one that the server takes', (load) =>
    figuresAreKept(antenna(load, { loadAverageW: 100, loadBurst: { watts: 300, minutes: 10 } })),
  )

  test.each<[number, string, string, object]>([
    [0, 'Resistance', '36', { rOhm: 36 }],
    [0, 'Reactance', '-20', { xOhm: -20 }],
    [1, 'SWR as read', '3:1', { swr: 3 }],
    [2, 'Resonant on', '4.2', { resonanceHz: 4.2e6 }],
    [2, 'Resistance there', '60', { rOhm: 60 }],
    [2, 'Q', '15', { q: 15 }],
    [3, 'Resistors in parallel', '20', { count: 20 }],
    [3, 'Each', '1000', { ohmEach: 1000 }],
    [3, 'Stray inductance', '8', { strayInductanceH: 8e-9 }],
    [3, 'Stray capacitance', '4', { strayCapacitanceF: 4e-12 }],
  ])('%i: %s, %s', async (which, label, text, expected) => {
    const panel = antenna(loads[which]!)
    await typeInto(panel, label, text)
    expect(kept(panel.document().load)).toMatchObject(expected)
  })

  test('known in another way it keeps its name, and begins from what is known now', async () => {
    const panel = antenna(loads[0]!)
    const field = screen.getByLabelText('What is known of it')
    for (const { value } of loadChoices) {
      await panel.user.selectOptions(field, value)
      const { load } = panel.document()
      expect(load).toMatchObject({ kind: value, name: 'Vee' })
      // Readings band by band begin with none, and have to be entered.
      if (value !== 'bands') expect(problemsOf(panel.document())).toEqual([])
    }
    await panel.user.selectOptions(field, 'swr')
    expect(panel.document().load).toMatchObject({ swr: expect.any(Number) as number })
  })

  test('averages for an exposure assessment follow mode and transmission, with what is radiated', () => {
    // 100 W into 50 Ω behind nothing but the line: what arrives is in the answer of the chain.
    const channels = [
      { ...fixture.channels[0]!, mode: 'FM' as const, longestOverS: 180 },
      ...fixture.channels.slice(1),
    ]
    antenna(loads[0]!, { channels, antennaGainDbi: 3.01 })
    const region = screen.getByRole('region', { name: 'For an exposure assessment' })
    const chain = chainOfDocument({ ...fixture, load: loads[0]! }, undefined)!
    const answer = answerChannel(chain, fixture.transmitter, channels[0]!)
    if (!answer?.ok) throw new Error('no answer')
    const half = answer.solution.antennaW / 2
    // Three minutes in six, fifteen in thirty; 3.01 dBi double it.
    for (const minutes of [6, 30])
      expect(region.textContent).toContain(
        `Average over ${minutes} min${formatPower(half)}, EIRP ${formatPower(2 * half)}`,
      )
    expect(region.textContent).toContain('with pauses as long')
    expect(region.textContent).toContain('no safe distance follows')
  })
  test('its name', async () => {
    const panel = antenna(loads[1]!)
    await panel.user.type(screen.getByLabelText('Name'), ' two')
    expect(panel.document().load.name).toBe('Vee two')
  })

  test('how much it bears, for ever and for a while', async () => {
    const panel = antenna(loads[0]!)
    await panel.user.click(screen.getByLabelText('Continuous power is known'))
    const { loadAverageW } = panel.document()
    expect(loadAverageW).toBeGreaterThan(0)
    await panel.user.click(screen.getByLabelText('Intermittent power is known'))
    expect(panel.document().loadBurst!.watts).toBeGreaterThanOrEqual(loadAverageW!)
    expect(problemsOf(panel.document())).toEqual([])
    await panel.user.click(screen.getByLabelText('Continuous power is known'))
    expect(panel.document().loadAverageW).toBeUndefined()
    expect(problemsOf(panel.document())).toEqual([])
  })
})

describe('a transmitter', () => {
  const full = {
    reduced: { on: true, powerW: 20 },
    bands: [{ lowHz: 4e6, highHz: 5e6, ratedW: 50 }],
  }
  test('what cannot be read is said at every field, and changes nothing', () =>
    nonsenseIsSaid(transmitter(full)))
  test('a figure that is read is kept as one that the server takes', () =>
    figuresAreKept(transmitter(full)))

  test.each<[string, string, object]>([
    ['Rated power, PEP', '50', { ratedW: 50 }],
    ['Rated power, PEP', '1.5k', { ratedW: 1500 }],
    ['Reduced to, PEP', '10', { reduced: { powerW: 10, on: true } }],
    [
      'SWR, point 1',
      '1.6',
      {
        foldback: [
          [1.6, 1],
          [3, 0.5],
        ],
      },
    ],
    [
      'Power left, point 2',
      '40',
      {
        foldback: [
          [1.5, 1],
          [3, 0.4],
        ],
      },
    ],
    ['from, 1', '3.5', { bands: [{ lowHz: 3.5e6, highHz: 5e6, ratedW: 50 }] }],
    ['to, 1', '5.5', { bands: [{ lowHz: 4e6, highHz: 5.5e6, ratedW: 50 }] }],
    ['rated, 1', '30', { bands: [{ lowHz: 4e6, highHz: 5e6, ratedW: 30 }] }],
  ])('%s, %s', async (label, text, expected) => {
    const panel = transmitter(full)
    await typeInto(panel, label, text)
    expect(kept(panel.document().transmitter)).toMatchObject(expected)
  })

  test('power is reduced, and full again with the figure remembered', async () => {
    const panel = transmitter()
    await panel.user.click(screen.getByLabelText('Reduced-power setting is on'))
    expect(panel.document().transmitter.reduced).toEqual({ powerW: 50, on: true })
    await panel.user.click(screen.getByLabelText(/Power is reduced/))
    expect(panel.document().transmitter.reduced).toEqual({ powerW: 50, on: false })
  })

  test('how it meets a mismatch, its name, its supply', async () => {
    const panel = transmitter()
    await panel.user.selectOptions(screen.getByLabelText('Into a mismatch'), 'peaked')
    expect(panel.document().transmitter.behaviour).toBe('peaked')
    await panel.user.type(screen.getByLabelText('Name'), ' 2')
    expect(panel.document().transmitter.name).toBe('Petrel 2')
    const supply = screen.getByLabelText(/^Supply/)
    await panel.user.type(supply, '13.8 V')
    expect(panel.document().transmitter.supply).toBe('13.8 V')
    await panel.user.clear(supply)
    expect(panel.document().transmitter.supply).toBeUndefined()
  })

  test('a point of the foldback is removed, a band as well', async () => {
    const panel = transmitter(full)
    await panel.user.click(screen.getByLabelText('Remove the point at SWR 3.00'))
    expect(panel.document().transmitter.foldback).toEqual([[1.5, 1]])
    await panel.user.click(screen.getByLabelText('Remove band 1'))
    expect(panel.document().transmitter.bands ?? []).toEqual([])
    expect(problemsOf(panel.document())).toEqual([])
  })
})

describe('a channel', () => {
  test('what cannot be read is said at every field, and changes nothing', () =>
    nonsenseIsSaid(channel({ longestOverS: 180 })))
  test('a figure that is read is kept as one that the server takes', () =>
    figuresAreKept(channel({ longestOverS: 180 })))

  test.each<[string, string, object]>([
    ['Frequency', '7.1', { frequencyHz: 7.1e6 }],
    ['Frequency', '7100 kHz', { frequencyHz: 7.1e6 }],
    ['Set power, PEP', '25', { powerW: 25 }],
    ['Average over PEP', '35', { meanToPeak: 0.35 }],
    ['Duty cycle of a transmission', '60', { keyDown: 0.6 }],
    ['lasts', '5', { longestOverS: 300 }],
  ])('%s, %s', async (label, text, expected) => {
    const panel = channel({ longestOverS: 180 })
    await typeInto(panel, label, text)
    expect(kept(panel.document().channels[0])).toMatchObject(expected)
  })

  test('another mode has its own average and duty cycle', async () => {
    const panel = channel({ meanToPeak: 0.3, keyDown: 0.5 })
    await panel.user.selectOptions(screen.getByLabelText('Mode'), 'FM')
    const [own] = panel.document().channels
    expect(own).toMatchObject({ mode: 'FM' })
    expect([own!.meanToPeak, own!.keyDown]).toEqual([undefined, undefined])
  })

  test('its name may go; more than the radio is rated for is said', async () => {
    const panel = channel({ powerW: 200, name: 'Working' })
    expect(screen.getByText(/More than the 100.W that Petrel is rated for/)).toBeTruthy()
    await panel.user.clear(screen.getByLabelText(/^Name/))
    expect(panel.document().channels[0]!.name).toBeUndefined()
  })

  test('the last one stays', async () => {
    const panel = channel()
    const remove = screen.getByRole('button', { name: /Remove/ })
    await panel.user.click(remove)
    expect(panel.document().channels).toHaveLength(1)
    expect(screen.getByRole('button', { name: /Remove/ }).hasAttribute('disabled')).toBe(true)
  })
})
