/** Every figure of every kind of stage through its field: what is typed arrives, and what comes of it can be kept. */
import { type ChainDocument, chainDocumentSchema } from '@saltline/contract'
import { screen, within } from '@testing-library/react'
import { describe, expect, test } from 'vitest'
import { insertStage, newStage } from '../../src/model/edits.ts'
import { stageChoices } from '../../src/model/stages/index.ts'
import { StagePanel } from '../../src/panel/StagePanel.tsx'
import { document as fixture } from '../fixtures.ts'
import {
  figuresAreKept,
  kept,
  nonsenseIsSaid,
  numberFields,
  showPanel,
  typeInto,
} from './panelHarness.tsx'

type Stage = ChainDocument['stages'][number]

/** The panel of a stage that stands first in the chain, and the stage as it is now. */
function shown(stage: Stage) {
  const panel = showPanel(insertStage(0, stage)(fixture), (props) => (
    <StagePanel {...props} id={stage.id} />
  ))
  const own = () =>
    panel.document().stages.find(({ id }) => id === stage.id) as Record<string, unknown>
  return { ...panel, stage: own }
}

const begun = (choice: string): Stage => ({ ...newStage(choice, fixture), id: 'own' })
const at = (choice: string, more: object = {}): Stage => ({ ...begun(choice), ...more }) as Stage

/** A stage of every kind, its figures its own, and of every way that a tuner is known. */
const kinds: [string, Stage][] = [
  ...stageChoices.map(({ choice }): [string, Stage] => {
    const stage = begun(choice)
    return [choice, 'points' in stage ? { ...stage, points: undefined, gearId: undefined } : stage]
  }),
  [
    'tuner by its loss',
    at('tuner', { method: 'given', lossDb: 0.3, residualSwr: 1.1, reachSwr: 10 }),
  ],
  [
    'tuner with relays',
    {
      id: 'own',
      name: 'Tuner',
      kind: 'tuner',
      method: 'stepped',
      coilBits: 7,
      coilStepH: 0.08e-6,
      capacitorBits: 7,
      capacitorStepF: 10e-12,
      coilQ: 150,
      capacitorQ: 800,
      contentSwr: 1.5,
    },
  ],
]

describe('whatever is typed', () => {
  test.each(kinds)('%s: what cannot be read is said, and changes nothing', (_, stage) =>
    nonsenseIsSaid(shown(stage)),
  )
  test.each(kinds)('%s: a figure that is read is kept as one that the server takes', (_, stage) =>
    figuresAreKept(shown(stage)),
  )
})

describe('each field has its figure', () => {
  test.each<[string, object, string, string, object]>([
    ['line', {}, 'Length', '12', { lengthM: 12 }],
    ['line', {}, 'Length', '40 ft', { lengthM: 12.192 }],
    ['line', {}, 'Impedance', '75', { cable: { z0Ohm: 75 } }],
    ['line', {}, 'Velocity factor', '0.8', { cable: { velocityFactor: 0.8 } }],
    ['line', {}, 'k₁, conductor', '1.25', { cable: { k1DbPer100m: 1.25 } }],
    ['line', {}, 'k₂, dielectric', '0.01', { cable: { k2DbPer100m: 0.01 } }],
    ['line', {}, 'Loss above new', '25', { ageing: { factor: 1.25, reason: '' } }],
    ['line', {}, 'Temperature', '35', { temperatureC: 35 }],
    ['attenuator', {}, 'Insertion loss', '6', { lossDb: 6 }],
    ['attenuator', { atHz: 30e6 }, 'Loss stated at', '14', { atHz: 14e6 }],
    ['tuner', {}, 'Coil, from', '500 nH', { coilH: [0.5e-6, 28e-6] }],
    ['tuner', {}, 'Each capacitor, from', '20 pF', { capacitorF: [20e-12, 250e-12] }],
    ['transformer', {}, 'Impedance ratio', '9', { ratio: 9 }],
    ['transformer', {}, 'Insertion loss', '0.5', { lossDb: 0.5 }],
    ['transformer', {}, 'Leakage, in series', '3', { leakageOhm: 3 }],
    ['transformer', {}, 'Magnetising, in parallel', '800', { magnetisingOhm: 800 }],
    ['transformer', {}, 'Core loss, in parallel', '5000', { coreOhm: 5000 }],
    ['amplifier', {}, 'Full output, PEP', '400', { fullW: 400 }],
    ['amplifier', {}, 'Drive for it', '60', { driveW: 60 }],
    ['amplifier', {}, 'Gain at small drive', '14', { gainDb: 14 }],
    ['amplifier', {}, 'Input resistance', '60', { inputOhm: { rOhm: 60, xOhm: 0 } }],
    ['amplifier', {}, 'Input reactance', '-12', { inputOhm: { rOhm: 50, xOhm: -12 } }],
    ['series', {}, 'Resistance', '4', { rOhm: 4 }],
    ['series', {}, 'Reactance', '-30', { xOhm: -30 }],
    ['shunt', {}, 'Reactance', '250', { xOhm: 250 }],
    ['stub', {}, 'Length', '2.5', { lengthM: 2.5 }],
  ])('%s %j: %s, %s', async (choice, more, label, text, expected) => {
    const panel = shown(at(choice, more))
    await typeInto(panel, label, text)
    expect(kept(panel.stage())).toMatchObject(expected)
  })
})

describe('what is chosen', () => {
  test('a tuner known in another way keeps its name and rating, and is one that can be kept', async () => {
    const { user, stage, document } = shown(at('tuner', { name: 'Big one', ratedW: 300 }))
    const known = screen.getByLabelText('Known by')
    for (const method of ['stepped', 'given', 'network']) {
      await user.selectOptions(known, method)
      expect(stage()).toMatchObject({ id: 'own', name: 'Big one', ratedW: 300, method })
      expect(chainDocumentSchema.safeParse(document()).success).toBe(true)
    }
    expect(stage()).not.toHaveProperty('coilBits')
  })

  test.each(['T', 'pi', 'L-low-pass', 'L-high-pass'])('the network %s', async (network) => {
    const { user, stage, document } = shown(begun('tuner'))
    await user.selectOptions(screen.getByLabelText('Network'), network)
    expect(stage()).toMatchObject({ network })
    expect(chainDocumentSchema.safeParse(document()).success).toBe(true)
    const side = screen.queryByLabelText(/ across, on$/)
    expect(side === null).toBe(!network.startsWith('L'))
    if (side) {
      await user.selectOptions(side, 'transmitter')
      expect(stage()).toMatchObject({ shuntAt: 'transmitter' })
    }
  })

  test('it sets itself, or does not', async () => {
    const { user, stage } = shown(begun('tuner'))
    const box = screen.getByLabelText('Sets itself, by motors')
    await user.click(box)
    expect(stage()).toMatchObject({ automatic: true })
    await user.click(box)
    expect(stage()['automatic']).toBeUndefined()
  })

  test('a part takes a class, its table, and a loss of its own again', async () => {
    const { user, stage } = shown(begun('connector'))
    const field = screen.getByLabelText('Class of part')
    const other = within(field)
      .getAllByRole<HTMLOptionElement>('option')
      .map(({ value }) => value)
      .find((value) => !['own', 'table', stage()['gearId']].includes(value))!
    await user.selectOptions(field, other)
    expect(stage()['gearId']).toBe(other)
    expect(stage()['points']).not.toBeUndefined()
    const loss = stage()['lossDb'] as number
    await user.selectOptions(field, 'own')
    expect(stage()['points']).toBeUndefined()
    expect(stage()['gearId']).toBeUndefined()
    expect(stage()['lossDb']).toBeCloseTo(loss, 2)
    await user.type(screen.getByLabelText('Loss stated at, MHz'), '4.146')
    expect(stage()['atHz']).toBe(4.146e6)
    await user.clear(screen.getByLabelText('Loss stated at, MHz'))
    expect(stage()['atHz']).toBeUndefined()
  })

  test('a coil goes with frequency from where its reactance is stated', async () => {
    const { user, stage, container } = shown(at('series', { xOhm: 30 }))
    expect(container.textContent).toContain('X the same everywhere')
    await user.type(screen.getByLabelText('Reactance stated at, MHz'), '7.1')
    expect(stage()['atHz']).toBe(7.1e6)
    expect(container.textContent).toContain('behaves as a coil')
  })

  test('a stub is open or shorted', async () => {
    const { user, stage } = shown(begun('stub'))
    await user.selectOptions(screen.getByLabelText('Far end'), 'short')
    expect(stage()['end']).toBe('short')
  })

  test('how an amplifier meets a mismatch', async () => {
    const { user, stage } = shown(begun('amplifier'))
    await user.selectOptions(screen.getByLabelText('Into a mismatch'), 'peaked')
    expect(stage()['behaviour']).toBe('peaked')
  })
})

describe('a shunt', () => {
  test('of nothing at all would be a short circuit: the field says so, whichever comes last', async () => {
    const { user, container, stage } = shown(at('shunt', { rOhm: 5, xOhm: 0 }))
    const [resistance, reactance] = numberFields(container)
    await user.clear(resistance!)
    await user.type(resistance!, '0')
    expect(screen.getByText(/is a short circuit: give it some/)).toBeTruthy()
    expect(stage()).toMatchObject({ rOhm: 5, xOhm: 0 })
    await user.keyboard('{Escape}')
    await user.clear(reactance!)
    await user.type(reactance!, '1')
    await user.clear(resistance!)
    await user.type(resistance!, '0')
    expect(stage()).toMatchObject({ rOhm: 0, xOhm: 1 })
    await user.clear(reactance!)
    await user.type(reactance!, '0')
    expect(screen.getByText(/is a short circuit: give it some/)).toBeTruthy()
    await user.keyboard('{Escape}{ArrowDown}')
    expect(stage()['xOhm']).not.toBe(0)
  })
})

describe('around the fields', () => {
  test('the name is changed, and the buttons do what they say', async () => {
    const { user, stage, done } = shown(begun('attenuator'))
    await user.clear(screen.getByLabelText('Name'))
    await user.type(screen.getByLabelText('Name'), 'Ten dB')
    expect(stage()['name']).toBe('Ten dB')
    expect(
      screen.getByRole('button', { name: 'Move toward the transmitter' }).hasAttribute('disabled'),
    ).toBe(true)
    await user.click(screen.getByRole('button', { name: 'Move toward the antenna' }))
    await user.click(screen.getByRole('button', { name: 'Duplicate' }))
    await user.click(screen.getByRole('button', { name: 'Remove' }))
    expect(done).toEqual(['move 1', 'duplicate', 'remove'])
    await user.click(screen.getByRole('button', { name: 'Bypass' }))
    expect(stage()['bypassed']).toBe(true)
    await user.click(screen.getByRole('button', { name: 'Put back in' }))
    expect(stage()['bypassed']).toBeUndefined()
  })

  test('a stage that is gone says so', () => {
    showPanel(fixture, (props) => <StagePanel {...props} id="gone" />)
    expect(screen.getByText('This stage is no longer in the chain.')).toBeTruthy()
  })

  test('age is written with its reason and its day, and goes when all of it is gone', async () => {
    const { user, stage } = shown(begun('line'))
    await user.type(screen.getByLabelText(/^Why/), 'water')
    expect(stage()['ageing']).toEqual({ factor: 1, reason: 'water' })
    await user.type(screen.getByLabelText('Known since'), '2026-05-01')
    expect(stage()['ageing']).toMatchObject({ date: '2026-05-01' })
    await user.clear(screen.getByLabelText('Known since'))
    await user.clear(screen.getByLabelText(/^Why/))
    expect(stage()['ageing']).toBeUndefined()
  })
})
