/** A panel of the chain page in a page of its own, on a document that its fields change. */
import { type ChainDocument, chainDocumentSchema } from '@saltline/contract'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { act, cleanup, fireEvent, render } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { type ComponentType, useState } from 'react'
import { MemoryRouter } from 'react-router'
import { afterEach, beforeEach, expect, vi } from 'vitest'
import type { ChainActions } from '../../src/editor/actions.ts'
import { answerChannel, chainOfDocument } from '../../src/model/answers.ts'
import { changeChannel, changeStage, removeChannel, toggleBypass } from '../../src/model/edits.ts'
import type { PanelProps } from '../../src/panel/panelProps.ts'
import { SilentWorker, station } from './bare.ts'

beforeEach(() => {
  vi.stubGlobal('Worker', SilentWorker)
  vi.stubGlobal('fetch', () => Promise.resolve(Response.json([])))
})
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

type Stage = ChainDocument['stages'][number]

/** What is folded away is not there: all of it is opened. */
function unfold(container: HTMLElement) {
  for (const details of container.querySelectorAll('details')) {
    if (details.open) continue
    details.open = true
    fireEvent(details, new Event('toggle'))
  }
}

/** Shows a panel with all that is in it, and gives the document behind it as it is now, and what else was asked for. */
export function showPanel(begin: ChainDocument, Panel: ComponentType<PanelProps>) {
  let latest = begin
  const done: string[] = []
  function Page() {
    const [document, setDocument] = useState(begin)
    const edit = (change: (document: ChainDocument) => ChainDocument) =>
      setDocument((before) => (latest = change(before)))
    const actions = {
      edit,
      changeStage: (id: string, change: (stage: Stage) => Stage) => edit(changeStage(id, change)),
      changeChannel: (id: string, change: object) => edit(changeChannel(id, change)),
      removeChannel: (id: string) => edit(removeChannel(id)),
      toggleBypass: (id: string) => edit(toggleBypass(id)),
      move: (_: string, by: number) => done.push(`move ${by}`),
      duplicate: () => done.push('duplicate'),
      remove: () => done.push('remove'),
    } as unknown as ChainActions
    const channel = document.channels[0]!
    const chain = chainOfDocument(document, undefined)!
    const answer = answerChannel(chain, document.transmitter, channel)
    return (
      <Panel
        {...{ station, document, chain, channel, answer, actions }}
        onType={() => undefined}
        onFile={() => undefined}
      />
    )
  }
  const { container } = render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter>
        <Page />
      </MemoryRouter>
    </QueryClientProvider>,
  )
  unfold(container)
  return { user: userEvent.setup(), done, container, document: () => latest }
}

export type Shown = ReturnType<typeof showPanel>

/** Fields that take a number. */
export const numberFields = (container: HTMLElement) =>
  [...container.querySelectorAll<HTMLInputElement>('input[inputmode][aria-invalid]')].filter(
    ({ disabled }) => !disabled,
  )

const nameOf = (input: HTMLInputElement) =>
  input.labels?.[0]?.textContent ?? input.getAttribute('aria-label') ?? '?'

export async function typeInto({ user, container }: Shown, label: string, text: string) {
  const field = numberFields(container).find((input) => nameOf(input).startsWith(label))!
  await user.clear(field)
  await user.type(field, text)
  await user.tab()
}

/** The same at once, where thousands of fields are filled in: as pasting does, without a key for every letter. */
function paste(field: HTMLInputElement, text: string) {
  act(() => field.focus())
  fireEvent.change(field, { target: { value: text } })
}

/** What cannot be read is said at every field, and changes nothing. */
export function nonsenseIsSaid({ container, document }: Shown) {
  const before = document()
  const fields = numberFields(container)
  expect(fields.length).toBeGreaterThan(0)
  for (const field of fields) {
    paste(field, 'zz')
    expect(field.getAttribute('aria-invalid'), nameOf(field)).toBe('true')
  }
  expect(document()).toEqual(before)
}

export const problemsOf = (document: ChainDocument) =>
  chainDocumentSchema.safeParse(JSON.parse(JSON.stringify(document))).error?.issues ?? []

/** Whatever is typed into whichever field, what comes of it is a document that the server takes. */
export function figuresAreKept({ container, document }: Shown) {
  let changed = 0
  for (const text of ['3', '0', '-7', '1e9'])
    for (const field of numberFields(container)) {
      const before = document()
      paste(field, text)
      act(() => field.blur())
      if (document() === before) continue
      changed++
      expect(problemsOf(document()), `${nameOf(field)}: ${text}`).toEqual([])
    }
  expect(changed).toBeGreaterThan(0)
}

/** A value as it is kept, without the last digits of its arithmetic. */
export const kept = (value: unknown) =>
  JSON.parse(
    JSON.stringify(value, (_, part: unknown) =>
      typeof part === 'number' ? Number(part.toPrecision(12)) : part,
    ),
  ) as object
