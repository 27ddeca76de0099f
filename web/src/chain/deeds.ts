import type { ChainDocument, Station } from '@saltline/contract'
import { formatFrequency } from '@saltline/core'
import { setPreferences } from '../app/preferences.ts'
import type { Deed } from '../app/Palette.tsx'
import type { Selection } from './selection.ts'

type Name = 'undo' | 'redo' | 'table' | 'zoom' | 'history' | 'rename' | 'copy' | 'remove' | 'help'

const deedIn =
  (group: string) =>
  (id: string, label: string, run: () => void, hint?: string): Deed => ({
    id: `${group}-${id}`,
    group,
    label,
    run,
    ...(hint && { hint }),
  })

/** What the palette offers on a chain's page. */
export function chainDeeds({
  station,
  document,
  deeds,
  select,
  pickChannel,
  openChain,
  go,
}: {
  station: Station
  document: ChainDocument
  deeds: Record<Name, () => void>
  select: (selection: Selection) => void
  pickChannel: (id: string) => void
  openChain: (id: string) => void
  go: (to: string) => void
}): Deed[] {
  const onChain = deedIn('On this chain')
  const toChannel = deedIn('Channels')
  const toChain = deedIn('Chains')
  const todo = deedIn('Do')
  const show = deedIn('Show')
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
    ...station.chains.map(({ id, name }) => toChain(id, name, () => openChain(id))),
    todo('undo', 'Undo', deeds.undo, 'Ctrl + Z'),
    todo('redo', 'Redo', deeds.redo, 'Ctrl + Shift + Z'),
    todo('history', 'Show the revisions', deeds.history),
    todo('rename', 'Rename this chain', deeds.rename),
    todo('copy', 'Copy as a new chain', deeds.copy),
    todo('delete', 'Delete this chain', deeds.remove),
    show('table', 'Curve across the band as a table, and back', deeds.table, 't'),
    show('zoom', 'Look closer at the lower part of the band', deeds.zoom, 'z'),
    ...placeDeeds(station.id, go),
    ...showDeeds(deeds.help),
  ]
}

/** Pages one can go to from anywhere. */
export function placeDeeds(stationId: string | undefined, go: (to: string) => void): Deed[] {
  const place = deedIn('Go to')
  const own = (id: string, label: string) =>
    stationId === undefined ? [] : [place(id, label, () => go(`/station/${stationId}${id}`))]
  return [
    ...own('', 'Station: alerts, record, backup'),
    ...own('/bench', 'Bench worksheets'),
    ...own('/gear', 'Gear and instruments'),
    place('quick', 'Quick sum', () => go('/quick')),
  ]
}

/** What can be shown otherwise on any page. */
export function showDeeds(help: () => void): Deed[] {
  const show = deedIn('Show')
  return [
    show('m', 'Lengths in metres', () => setPreferences({ length: 'm' })),
    show('ft', 'Lengths in feet', () => setPreferences({ length: 'ft' })),
    show('w', 'Power in watts', () => setPreferences({ power: 'W' })),
    show('dbm', 'Power in dBm', () => setPreferences({ power: 'dBm' })),
    show('day', 'Day theme, salt paper', () => setPreferences({ theme: 'day' })),
    show('night', 'Night-watch theme', () => setPreferences({ theme: 'night' })),
    show('help', 'Keys and cautions', help, '?'),
  ]
}
