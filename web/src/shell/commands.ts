import type { Lens, LensId } from '../editor/lens.ts'
import { type ChainDocument, placesOf, type Station } from '@saltline/contract'
import { formatFrequency } from '@saltline/core'
import { setPreferences } from '../platform/preferences.ts'
import { type StageChoice, stageChoices } from '../model/stages/index.ts'
import { glossary } from './glossary.ts'
import type { PaletteItem } from './paletteItem.ts'
import type { Selection } from '../model/selection.ts'

type Name = 'undo' | 'redo' | 'table' | 'zoom' | 'history' | 'rename' | 'copy' | 'remove' | 'help'

const commandIn =
  (group: string) =>
  (id: string, label: string, run: () => void, hint?: string): PaletteItem => ({
    id: `${group}-${id}`,
    group,
    label,
    run,
    ...(hint && { hint }),
  })

/** What the palette offers on a chain's page. */
export function chainCommands({
  station,
  chainId,
  document,
  commands,
  select,
  pickChannel,
  openChain,
  openLens,
  lenses,
  insert,
  go,
}: {
  station: Station
  chainId: string
  document: ChainDocument
  commands: Record<Exclude<Name, 'help'>, () => void> & { help: (at?: string) => void }
  select: (selection: Selection) => void
  pickChannel: (id: string) => void
  openChain: (id: string) => void
  openLens: (id: LensId) => void
  lenses: readonly Pick<Lens, 'id' | 'name'>[]
  /** Puts a stage in at what is picked out. */
  insert: (choice: StageChoice) => void
  go: (to: string) => void
}): PaletteItem[] {
  const onChain = commandIn('On this chain')
  const toChannel = commandIn('Channels')
  const toChain = commandIn('Chains')
  const todo = commandIn('Do')
  const show = commandIn('Show')
  return [
    onChain('tx', document.transmitter.name, () => select({ kind: 'transmitter' }), 'transmitter'),
    ...document.stages.map((stage) =>
      onChain(
        stage.id,
        stage.name,
        () => select({ kind: 'stage', id: stage.id }),
        stage.kind === 'pad' ? stage.part : stage.kind === 'line' ? 'cable' : stage.kind,
      ),
    ),
    ...placesOf(document).map(({ plane, before, name }) =>
      onChain(
        `plane-${before}`,
        `${name[0]!.toUpperCase()}${name.slice(1)}: power and SWR`,
        () => select({ kind: 'plane', index: plane }),
        'place',
      ),
    ),
    onChain('antenna', document.load.name, () => select({ kind: 'antenna' }), 'antenna'),
    ...document.channels.map((channel, i) =>
      toChannel(
        channel.id,
        formatFrequency(channel.frequencyHz),
        () => pickChannel(channel.id),
        i < 9 ? String(i + 1) : undefined,
      ),
    ),
    toChannel('edit', 'Edit this channel', () => select({ kind: 'channel' }), 'e'),
    ...lenses.map(({ id, name }) => commandIn('Lenses')(id, name, () => openLens(id))),
    ...stageChoices.map(({ choice, label, hint }) =>
      commandIn('Insert')(choice, `Insert ${label}`, () => insert(choice), hint),
    ),
    ...station.chains.map(({ id, name }) => toChain(id, name, () => openChain(id))),
    todo('undo', 'Undo', commands.undo, 'Ctrl + Z'),
    todo('redo', 'Redo', commands.redo, 'Ctrl + Shift + Z'),
    todo('history', 'Show the revisions', commands.history),
    todo('rename', 'Rename this chain', commands.rename),
    todo('copy', 'Copy as a new chain', commands.copy),
    todo('delete', 'Delete this chain', commands.remove),
    show('table', 'Curve across the band as a table, and back', commands.table, 't'),
    show('zoom', 'Look closer at the lower part of the band', commands.zoom, 'z'),
    todo('card', 'Print the operating card', () =>
      go(`/station/${station.id}/chain/${chainId}/card`),
    ),
    ...placeCommands(station.id, go),
    ...showCommands(commands.help),
  ]
}

/** Pages one can go to from anywhere. */
export function placeCommands(
  stationId: string | undefined,
  go: (to: string) => void,
): PaletteItem[] {
  const place = commandIn('Go to')
  const own = (id: string, label: string) =>
    stationId === undefined ? [] : [place(id, label, () => go(`/station/${stationId}${id}`))]
  return [
    ...own('', 'Board: all chains, record, settings, backup'),
    ...own('/due', 'What is due: the year, duties, the calendar'),
    ...own('/bench', 'Bench worksheets'),
    ...own('/gear', 'Gear and instruments'),
    ...own('/gear?kind=things', 'Things: the register, labels'),
    place('quick', 'Quick sum', () => go('/quick')),
    place('drills', 'Drills: find the fault, hands on', () => go('/drills')),
    place('access', 'Network and devices: phones, tokens, sign out', () => go('/access')),
    place('new', 'New station, or one from a file', () => go('/new')),
  ]
}

/** What can be shown otherwise on any page. */
export function showCommands(help: (at?: string) => void): PaletteItem[] {
  const show = commandIn('Show')
  const explain = commandIn('Glossary')
  return [
    show('m', 'Lengths in metres', () => setPreferences({ length: 'm' })),
    show('ft', 'Lengths in feet', () => setPreferences({ length: 'ft' })),
    show('w', 'Power in watts', () => setPreferences({ power: 'W' })),
    show('dbm', 'Power in dBm', () => setPreferences({ power: 'dBm' })),
    show('day', 'Light theme', () => setPreferences({ theme: 'day' })),
    show('night', 'Dark theme', () => setPreferences({ theme: 'night' })),
    show('system', 'Theme as the system', () => setPreferences({ theme: 'system' })),
    show('first', 'First steps', () => help('first-steps'), '?'),
    show('keys', 'All keys', () => help('keys')),
    ...glossary.map(({ id, term }) => explain(id, term, () => help(id))),
  ]
}
