import type { ChainState, Station } from '@saltline/contract'
import { formatFrequency, formatPower } from '@saltline/core'
import { useQuery } from '@tanstack/react-query'
import { Redo2, Undo2 } from 'lucide-react'
import { useMemo, useState } from 'react'
import { toast } from 'sonner'
import { createChain, deleteChain, restoreChain, sweepQuery } from '../api/queries.ts'
import { Header } from '../app/Header.tsx'
import { Help } from '../app/Help.tsx'
import { useKeys } from '../app/keys.ts'
import { Palette } from '../app/Palette.tsx'
import { Tools } from '../app/Tools.tsx'
import { BudgetLens } from '../lenses/budget/BudgetLens.tsx'
import { SidePanel } from '../panel/SidePanel.tsx'
import { Dialog } from '../parts/Dialog.tsx'
import { TextField } from '../parts/TextField.tsx'
import { Spine } from '../spine/Spine.tsx'
import { chainActions } from './actions.ts'
import { answerChannel, chainOfDocument, type ChannelAnswer } from './answers.ts'
import { ChainMenu } from './ChainMenu.tsx'
import { ChannelBar } from './ChannelBar.tsx'
import { ConflictDialog } from './ConflictDialog.tsx'
import { chainDeeds } from './deeds.ts'
import { History } from './History.tsx'
import { SaveState } from './SaveState.tsx'
import { useChainAddress } from './useChainAddress.ts'
import { useChainEditor } from './useChainEditor.ts'
import { zoomOf } from './zoom.ts'

type Sheet = 'find' | 'help' | 'history' | 'rename' | null

/** A chain on the desk: channels, spine, lens, and the panel of what is picked out. */
export function ChainWorkspace({ station, state }: { station: Station; state: ChainState }) {
  const [editor, snapshot] = useChainEditor(state)
  const address = useChainAddress()
  const { selection, select, pickChannel, openChain } = address
  const [sheet, setSheet] = useState<Sheet>(null)
  const [zoomed, setZoomed] = useState(false)
  const [asTable, setAsTable] = useState(false)
  const { document } = snapshot

  const sweepId = document.load.kind === 'antenna' ? document.load.sweepId : undefined
  const { data: sweep, error: sweepError } = useQuery(sweepQuery(sweepId))
  const { transmitter, stages, load } = document
  // Renaming or adding a channel must not compute the chain anew, nor sweep the band again.
  const chain = useMemo(
    () => chainOfDocument(document, sweep),
    [transmitter, stages, load, sweep], // eslint-disable-line react-hooks/exhaustive-deps
  )
  const answers = useMemo(
    () =>
      new Map<string, ChannelAnswer>(
        document.channels.flatMap((c) =>
          chain
            ? [[c.id, answerChannel(chain, c)]]
            : sweepError
              ? [[c.id, { ok: false, message: sweepError.message }]]
              : [],
        ),
      ),
    [chain, document.channels, sweepError],
  )
  const channel =
    document.channels.find(({ id }) => id === address.channelId) ?? document.channels[0]!
  const answer = answers.get(channel.id) ?? null
  const zoom = zoomOf(channel.powerW, answer)

  const actions = useMemo(
    () => chainActions(editor, select, pickChannel),
    [editor, select, pickChannel],
  )
  const copyChain = async () => {
    const copy = await createChain(station.id, {
      ...document,
      name: `${document.name}, copy`.slice(0, 80),
    })
    openChain(copy.id)
    toast(`Copied. You are now in “${copy.document.name}”.`)
  }
  const removeChain = async () => {
    await editor.flush()
    await deleteChain(state.id)
    const next = station.chains.find(({ id }) => id !== state.id)
    if (next) openChain(next.id)
    else location.assign('/')
    toast(`“${document.name}” is deleted.`, {
      duration: 15_000,
      action: {
        label: 'Take it back',
        onClick: () => void restoreChain(state.id).then(({ id }) => openChain(id)),
      },
    })
  }
  const deeds = {
    undo: () => void editor.step('undo'),
    redo: () => void editor.step('redo'),
    table: () => setAsTable((shown) => !shown),
    zoom: () => setZoomed((on) => !on),
    history: () => setSheet('history'),
    rename: () => setSheet('rename'),
    copy: () => void copyChain(),
    remove: () => void removeChain(),
    help: () => setSheet('help'),
    spine: () => window.document.querySelector<HTMLElement>('[data-item][tabindex="0"]')?.focus(),
  }
  useKeys({
    ...Object.fromEntries(
      document.channels.slice(0, 9).map(({ id }, i) => [String(i + 1), () => pickChannel(id)]),
    ),
    'ctrl+z': deeds.undo,
    'ctrl+shift+z': deeds.redo,
    'ctrl+y': deeds.redo,
    'ctrl+k': () => setSheet('find'),
    '/': () => setSheet('find'),
    '?': deeds.help,
    e: () => select({ kind: 'channel' }),
    s: deeds.spine,
    t: deeds.table,
    z: deeds.zoom,
    Escape: () => select(null),
  })

  return (
    <div className="flex min-h-full flex-col lg:h-full lg:overflow-hidden">
      <Header tools={<Tools onFind={() => setSheet('find')} onHelp={deeds.help} />}>
        <span className="truncate text-muted max-sm:hidden">{station.name}</span>
        <span className="text-muted max-sm:hidden">/</span>
        <ChainMenu
          station={station}
          chainId={state.id}
          document={document}
          onOpen={openChain}
          onRename={deeds.rename}
          onCopy={deeds.copy}
          onDelete={deeds.remove}
        />
        <SaveState
          status={snapshot.status}
          revision={snapshot.revision}
          onHistory={deeds.history}
        />
        <button
          type="button"
          className="quiet !px-1.5"
          disabled={!snapshot.canUndo}
          onClick={deeds.undo}
          aria-label="Undo"
        >
          <Undo2 size={16} aria-hidden />
        </button>
        <button
          type="button"
          className="quiet !px-1.5"
          disabled={!snapshot.canRedo}
          onClick={deeds.redo}
          aria-label="Redo"
        >
          <Redo2 size={16} aria-hidden />
        </button>
      </Header>
      <ChannelBar
        channels={document.channels}
        answers={answers}
        current={channel.id}
        onPick={pickChannel}
        onEdit={(id) => pickChannel(id, { kind: 'channel' })}
        onAdd={() => actions.addChannel(channel)}
      />
      <main className="flex min-h-0 flex-1 flex-col">
        <h1 className="sr-only">
          {document.name}, {station.name}
        </h1>
        <div className="flex items-center justify-between gap-3 px-4 pt-2 text-sm text-muted">
          <p>
            {formatFrequency(channel.frequencyHz)}, {channel.mode}, peak envelope watts
          </p>
          {zoom && (
            <button
              type="button"
              className="quiet !min-h-6 text-sm"
              aria-pressed={zoomed}
              onClick={deeds.zoom}
            >
              {zoomed
                ? `back to ${formatPower(channel.powerW)}`
                : `look closer: 0 to ${formatPower(zoom)}`}
            </button>
          )}
        </div>
        <Spine
          document={document}
          channel={channel}
          answer={answer}
          selection={selection}
          topW={zoomed && zoom ? zoom : channel.powerW}
          actions={actions}
        />
        <div className="flex min-h-0 flex-1 border-t border-rule max-lg:flex-col-reverse max-lg:justify-end">
          <div className="min-w-0 flex-1 lg:overflow-y-auto">
            {chain && answer?.ok && (
              <BudgetLens
                document={document}
                chain={chain}
                answer={answer}
                channel={channel}
                sweep={sweep}
                selection={selection}
                onSelect={select}
                asTable={asTable}
                onToggleTable={deeds.table}
              />
            )}
          </div>
          {selection && (
            <div className="w-[320px] shrink-0 border-rule lg:min-h-0 max-lg:w-full max-lg:border-b lg:border-l">
              <SidePanel
                selection={selection}
                station={station}
                document={document}
                channel={channel}
                answer={answer}
                actions={actions}
              />
            </div>
          )}
        </div>
      </main>
      <Palette
        open={sheet === 'find'}
        onOpenChange={(open) => setSheet(open ? 'find' : null)}
        deeds={chainDeeds({ station, document, deeds, select, pickChannel, openChain })}
      />
      <Help open={sheet === 'help'} onOpenChange={() => setSheet(null)} />
      <History
        chainId={state.id}
        revision={snapshot.revision}
        open={sheet === 'history'}
        onOpenChange={() => setSheet(null)}
        onTake={(taken) => editor.edit(() => taken)}
      />
      <Dialog
        title="Rename the chain"
        open={sheet === 'rename'}
        onOpenChange={() => setSheet(null)}
      >
        <TextField
          label="Name"
          value={document.name}
          onChange={(name) => editor.edit((d) => ({ ...d, name }))}
        />
      </Dialog>
      {snapshot.conflict && (
        <ConflictDialog
          conflict={snapshot.conflict}
          channel={channel}
          sweep={sweep}
          onResolve={(choice) => void editor.resolve(choice)}
        />
      )}
    </div>
  )
}
