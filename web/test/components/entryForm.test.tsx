import { type FarEnd, placesOf, type Reading, type ReadingBody } from '@saltline/contract'
import { cleanup, render, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { useState } from 'react'
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest'
import { outbox } from '../../src/platform/outbox/index.ts'
import { EntryForm } from '../../src/lenses/log/EntryForm.tsx'
import { chainOfDocument } from '../../src/model/answers.ts'
import { document as chainDocument } from '../fixtures.ts'
import { SilentWorker, station } from './bare.ts'
import { noteServerDate } from '../../src/platform/clock.ts'

const places = placesOf(chainDocument)

/** What the server is asked, and what it will say to the next one. */
let asked: ReadingBody[]
let answers: (() => Response)[]

const kept = (body: ReadingBody): Response => {
  const reading: Reading = {
    id: `r${asked.length}`,
    roundId: 'round',
    chainId: 'chain',
    channelId: body.channelId ?? null,
    frequencyHz: body.frequencyHz,
    mode: body.mode,
    meanToPeak: null,
    powerW: body.powerW,
    before: body.before,
    farEnd: body.farEnd ?? 'antenna',
    place: 'at the radio',
    forwardW: body.forwardW ?? null,
    reflectedW: body.reflectedW ?? null,
    shownForwardW: null,
    shownReflectedW: null,
    swr: body.swr ?? null,
    rangeW: null,
    instrumentId: null,
    instrument: '',
    supplyV: null,
    weather: body.weather ?? '',
    by: body.by ?? '',
    note: body.note ?? '',
    readAt: body.readAt!,
    inside: true,
    expectedW: null,
    lowW: null,
    highW: null,
    expectedSwr: null,
    lowSwr: null,
    highSwr: null,
  }
  return Response.json(reading, { status: 201 })
}

const refused = (detail: string) => () =>
  Response.json({ type: 'about:blank', title: 'Invalid', status: 422, detail }, { status: 422 })

// The page has heard from its server before anything is entered.
noteServerDate(new Date().toUTCString())

beforeEach(() => {
  asked = []
  answers = []
  vi.stubGlobal('Worker', SilentWorker)
  vi.stubGlobal('fetch', async (_: string, init: RequestInit) => {
    const body = JSON.parse(init.body as string) as ReadingBody
    asked.push(body)
    return answers.shift()?.() ?? kept(body)
  })
})
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

/** The form with its set power held as the page holds it. */
function Form(
  props: Omit<Parameters<typeof EntryForm>[0], 'powerW' | 'onPower' | 'farEnd' | 'onFarEnd'>,
) {
  const [powerW, setPower] = useState<number | null>(null)
  const [farEnd, onFarEnd] = useState<FarEnd>('antenna')
  return (
    <EntryForm
      {...props}
      powerW={powerW}
      onPower={(_, watts) => setPower(watts)}
      {...{ farEnd, onFarEnd }}
    />
  )
}

function shown(document = chainDocument, place = places[0]!) {
  const onKept = vi.fn<(reading: Reading) => void>()
  render(
    <Form
      station={station}
      chainId="chain"
      document={document}
      chain={chainOfDocument(document, undefined)!}
      channel={chainDocument.channels[1]!}
      places={places}
      place={place}
      onPlace={() => {}}
      onChannel={() => {}}
      last={undefined}
      open={false}
      onKept={onKept}
    />,
  )
  return {
    user: userEvent.setup(),
    onKept,
    forward: () => screen.getByLabelText<HTMLInputElement>(/^Forward/),
    reflected: () => screen.getByLabelText<HTMLInputElement>('Reflected, W'),
    note: () => screen.getByLabelText<HTMLInputElement>(/^Note/),
    setPower: () => screen.getByLabelText<HTMLInputElement>(/^Set power, PEP/),
    keep: () => screen.getByRole<HTMLButtonElement>('button', { name: 'Save the reading' }),
  }
}

describe('the entry of a reading', () => {
  test('asks for a figure before anything is kept', () => {
    expect(shown().keep().disabled).toBe(true)
  })

  test('sends what was read, with where, how and when, and is empty for the next', async () => {
    const form = shown()
    await form.user.type(form.forward(), '44')
    await form.user.type(form.reflected(), '1.5')
    await form.user.keyboard('{Enter}')
    await waitFor(() => expect(form.onKept).toHaveBeenCalledTimes(1))
    expect(asked).toHaveLength(1)
    expect(asked[0]).toMatchObject({
      channelId: 'c2',
      frequencyHz: 8.294e6,
      mode: 'data',
      powerW: 50,
      before: places[0]!.before,
      forwardW: 44,
      reflectedW: 1.5,
    })
    expect(Math.abs(Date.parse(asked[0]!.readAt!) - Date.now())).toBeLessThan(60_000)
    expect(form.forward().value).toBe('')
    expect(form.reflected().value).toBe('')
  })

  test('into a load it is held against the load, says what to mind, and is kept with it', async () => {
    // Of an antenna of 50 Ω it would be the same.
    const load = { ...chainDocument.load, rOhm: 120 } as typeof chainDocument.load
    const form = shown({ ...chainDocument, load }, places.at(-1)!)
    await form.user.type(form.forward(), '44')
    const swr = () => Number(screen.getByText(/SWR [\d.]+, /).textContent.match(/SWR ([\d.]+)/)![1])
    const onAntenna = swr()
    await form.user.selectOptions(screen.getByLabelText('At the far end'), 'load')
    expect(screen.getByText(/The load has to bear what arrives of 50/)).toBeTruthy()
    expect(onAntenna).toBeGreaterThan(1.2)
    expect(swr()).toBeLessThan(1.1)
    await form.user.click(form.keep())
    await waitFor(() => expect(form.onKept).toHaveBeenCalledTimes(1))
    expect(asked[0]!.farEnd).toBe('load')
  })

  test('a reading at another power is kept with it, held against it, and the next one is at the same', async () => {
    const form = shown()
    expect(form.setPower().value).toBe('50')
    await form.user.clear(form.setPower())
    await form.user.type(form.setPower(), '5{Enter}')
    await form.user.type(form.forward(), '4.9')
    const help = document.getElementById(form.forward().getAttribute('aria-describedby')!)
    expect(help!.textContent).not.toMatch(/less than expected/)
    await form.user.keyboard('{Enter}')
    await waitFor(() => expect(form.onKept).toHaveBeenCalledTimes(1))
    expect(asked[0]).toMatchObject({ powerW: 5, forwardW: 4.9 })
    expect(form.setPower().value).toBe('5')
  })

  test('shows against what was expected while one types', async () => {
    const form = shown()
    await form.user.type(form.forward(), '10')
    const help = document.getElementById(form.forward().getAttribute('aria-describedby')!)
    expect(help!.textContent).toMatch(/less than expected/)
  })

  test('a refused reading stands in the fields again, whole, with the reason', async () => {
    answers.push(refused('The clock is ahead.'))
    const form = shown()
    await form.user.type(form.forward(), '44')
    await form.user.type(form.note(), 'rain')
    await form.user.keyboard('{Enter}')
    const alert = await screen.findByRole('alert')
    expect(alert.textContent).toContain('The clock is ahead.')
    expect(form.forward().value).toBe('44')
    expect(form.note().value).toBe('rain')
    await form.user.click(form.keep())
    await waitFor(() => expect(form.onKept).toHaveBeenCalledTimes(1))
    expect(screen.queryByRole('alert')).toBeNull()
    expect(asked[1]).toMatchObject({ forwardW: 44, note: 'rain' })
  })

  test('a refusal that comes late waits beside what is being typed by then', async () => {
    let answer!: (response: Response) => void
    vi.stubGlobal('fetch', () => new Promise<Response>((done) => (answer = done)))
    const form = shown()
    await form.user.type(form.forward(), '44')
    await form.user.keyboard('{Enter}')
    await form.user.type(form.forward(), '39')
    answer(refused('No such chain.')())
    const alert = await screen.findByRole('alert')
    expect(form.forward().value).toBe('39')
    expect(within(alert).getByText(/forward 44.W/)).toBeTruthy()
    await form.user.click(within(alert).getByRole('button', { name: /again|retry/i }))
    expect(screen.queryByRole('alert')).toBeNull()
    expect(form.forward().value).toBe('39')
    answer(refused('No such chain.')())
    const again = await screen.findByRole('alert')
    await form.user.click(within(again).getByRole('button', { name: /discard/i }))
    expect(screen.queryByRole('alert')).toBeNull()
  })

  test('one that the server cannot hear waits, with its figures, and is sent when it is asked again', async () => {
    vi.stubGlobal('fetch', () => Promise.reject(new TypeError('no network')))
    const form = shown()
    await form.user.type(form.forward(), '44')
    await form.user.keyboard('{Enter}')
    const waits = await screen.findByText(/^One reading waits/)
    expect(waits.parentElement!.textContent).toMatch(/forward 44.W, at the radio/)
    expect(form.forward().value).toBe('')
    const sent: string[] = []
    vi.stubGlobal('fetch', (url: string) => {
      sent.push(url)
      return Promise.resolve(new Response('{}'))
    })
    await outbox.wake()
    await waitFor(() => expect(screen.queryByText(/^One reading waits/)).toBeNull())
    expect(sent).toHaveLength(1)
  })

  test('what no server would take is said at once, and nothing is sent', async () => {
    const form = shown()
    await form.user.type(form.forward(), '40')
    await form.user.type(form.reflected(), '41')
    await form.user.keyboard('{Enter}')
    expect((await screen.findByRole('alert')).textContent).toContain('As much comes back')
    expect(form.forward().value).toBe('40')
    expect(asked).toHaveLength(0)
  })

  test('SWR in place of reflected power is sent as such', async () => {
    const form = shown()
    await form.user.selectOptions(screen.getByLabelText('and'), 'swr')
    await form.user.type(screen.getByLabelText('SWR'), '1.4:1')
    await form.user.click(form.keep())
    await waitFor(() => expect(asked).toHaveLength(1))
    expect(asked[0]).toMatchObject({ swr: 1.4 })
    expect(asked[0]).not.toHaveProperty('reflectedW')
  })
})
