import type { Lens } from '../../editor/lens.ts'
import { useUnits } from '../../platform/preferences.ts'
import { errorText } from '../../platform/errorText.ts'
import { GoneParts } from '../../panel/GoneParts.tsx'
import { NoFigure } from '../../ui/NoFigure.tsx'
import { type ChainDocument, type ChainState, newId, type Station } from '@saltline/contract'
import { type Chain, formatFrequency, formatPower, modeOf } from '@saltline/core'
import { useQuery } from '@tanstack/react-query'
import { lazy, Suspense, useEffect, useMemo, useState } from 'react'
import { useNavigate } from 'react-router'
import { sweepQuery } from '../../platform/api/queries.ts'
import { LeadSlot } from '../../editor/lead.ts'
import { forgetWaysBack, takeBack } from '../../platform/wayBack.ts'
import { useKeys } from '../../shell/keys.ts'
import { lenses } from '../../lenses/index.ts'
import { room } from '../../ui/room.ts'
import { LiveStrip } from './LiveStrip.tsx'
import { LensTabs } from './LensTabs.tsx'
import { Dialog } from '../../ui/Dialog.tsx'
import { TextField } from '../../ui/TextField.tsx'
import { Spine } from '../../spine/Spine.tsx'
import { stillSpine } from '../../spine/stillSpine.ts'
import { chainActions } from '../../editor/actions.ts'
import {
  answerChannel,
  answerOf,
  type ChannelAnswer,
  chainOfDocument,
} from '../../model/answers.ts'
import { ChainHeader } from './ChainHeader.tsx'
import { ChannelBar } from './ChannelBar.tsx'
import { chainCommands } from '../../shell/commands.ts'
import { RangesContext, useChainRanges } from '../../compute/ranges.ts'
import { withRanges } from '../../model/withRanges.ts'
import { chainAddress, useChainAddress } from '../../editor/useChainAddress.ts'
import { useChainCommands } from '../../editor/useChainCommands.ts'
import { useChainEditor, useEdited } from '../../editor/useChainEditor.ts'
import { useChainView } from '../../editor/useChainView.ts'
import { topOf, zoomOf } from '../../model/zoom.ts'
import { wantPanel } from '../../editor/panelFocus.ts'
import { useHelp } from '../../shell/useHelp.ts'
import type { Selection } from '../../model/selection.ts'
import { TypedEarly } from '../../ui/TypedEarly.tsx'

const SidePanel = lazy(async () => ({
  default: (await import('../../panel/SidePanel.tsx')).SidePanel,
}))
const Palette = lazy(() => import('../../shell/Palette.tsx'))
const ImportSweep = lazy(() => import('./importing/ImportSweep.tsx'))
const ConflictDialog = lazy(() => import('./ConflictDialog.tsx'))
const History = lazy(() => import('./History.tsx'))

/** A chain on the desk: channels, spine, lens, and the panel of what is picked out. */
export function ChainWorkspace({
  station,
  state,
  lens,
}: {
  station: Station
  state: ChainState
  lens: Lens
}) {
  const { power } = useUnits()
  const editor = useChainEditor(state)
  const document = useEdited(editor, (now) => now.document)
  const conflict = useEdited(editor, (now) => now.conflict)
  const address = useChainAddress()
  const { selection, select, pickChannel, openChain } = address
  const { id: lensId, Lens, Strip, entry, lead } = lens
  const [leadSlot, setLeadSlot] = useState<HTMLElement | null>(null)
  const { open: openHelp } = useHelp()
  const view = useChainView()
  const navigate = useNavigate()
  const { sheet, zoomed, asTable } = view
  const closeImport = () => {
    view.offerFile(null)
    view.close()
  }

  const sweepId = document.load.kind === 'antenna' ? document.load.sweepId : undefined
  const { data: sweep, error: sweepError } = useQuery(sweepQuery(sweepId))
  const { transmitter, stages, load } = document
  // Renaming or adding a channel must not compute the chain anew, nor sweep the band again.
  const chain = useMemo(
    () => chainOfDocument(document, sweep),
    [transmitter, stages, load, sweep], // oxlint-disable-line react/exhaustive-deps
  )
  const channel =
    document.channels.find(({ id }) => id === address.channelId) ?? document.channels[0]!
  const bare = useMemo(
    () => answerOf(chain, transmitter, channel, sweepError),
    [chain, channel, sweepError], // oxlint-disable-line react/exhaustive-deps
  )
  const ranges = useChainRanges(document, chain)
  const answer = useMemo(() => withRanges(bare, ranges.of(channel.id)), [bare, ranges, channel.id])
  const [shown, setShown] = useState<{ document: ChainDocument; chain: Chain } | null>(null)
  const shownAnswer = useMemo(() => shown && answerShown(shown, channel.id), [shown, channel.id])
  const topW = Math.max(topOf(channel.powerW, answer), shownAnswer ? topOf(0, shownAnswer) : 0)
  const zoom = zoomOf(topW, answer)

  const live = useMemo(
    () => chain && { station, chainId: state.id, document, chain, channel },
    [station, state.id, document, chain, channel],
  )
  const actions = useMemo(
    () => chainActions(editor, select, pickChannel),
    [editor, select, pickChannel],
  )
  // What was done to the record of one chain is not taken back from the page of another.
  useEffect(() => forgetWaysBack, [state.id])
  const commands = useChainCommands(editor, station, state.id, openChain, view)
  useKeys({
    ...Object.fromEntries(
      document.channels.slice(0, 9).map(({ id }, i) => [String(i + 1), () => pickChannel(id)]),
    ),
    'ctrl+z': () => {
      // On the log it is the record that was changed last, unless the chain was edited since.
      if (lensId !== 'log' || !takeBack()) commands.undo()
    },
    'ctrl+shift+z': commands.redo,
    'ctrl+y': commands.redo,
    'ctrl+k': commands.find,
    '/': commands.find,
    '?': () => openHelp(),
    e: () => {
      wantPanel({ kind: 'channel' })
      select({ kind: 'channel' })
    },
    s: commands.spine,
    t: commands.table,
    z: commands.zoom,
    Escape: () => select(null),
  })

  return (
    <RangesContext value={ranges}>
      <title>{`${document.name}, ${lens.name} · Salt Line`}</title>
      <div
        className={`flex min-h-full flex-col ${entry ? '' : 'lg:h-full lg:overflow-hidden'}`}
        onDragOver={(event) => {
          if (event.dataTransfer.types.includes('Files')) event.preventDefault()
        }}
        onDrop={(event) => {
          event.preventDefault()
          view.offerFile(event.dataTransfer.files[0] ?? null)
        }}
      >
        <ChainHeader
          station={station}
          chainId={state.id}
          name={document.name}
          editor={editor}
          onPutBack={actions.putBack}
          commands={commands}
          onOpen={openChain}
        />
        <ChannelBar
          channels={document.channels}
          chain={chain}
          transmitter={transmitter}
          answer={answer}
          sweepError={sweepError}
          current={channel.id}
          onPick={pickChannel}
          onAdd={() => actions.addChannel(channel)}
        />
        <GoneParts stationId={station.id} chainId={state.id} className="px-4 pt-1" />
        <main className="flex min-h-0 flex-1 flex-col">
          <h1 className="sr-only">
            {document.name}, {station.name}
          </h1>
          <div className="flex items-center justify-between gap-3 px-4 pt-2 text-sm text-muted">
            <p>
              {formatFrequency(channel.frequencyHz)}, {modeOf(channel.mode).short}, peak envelope
              power{power === 'dBm' && ', dBm'}
            </p>
            {zoom && (
              <button
                type="button"
                className="quiet !min-h-6 text-sm"
                aria-pressed={zoomed}
                onClick={commands.zoom}
              >
                {zoomed
                  ? `back to ${formatPower(topW, power)}`
                  : `look closer: 0 to ${formatPower(zoom, power)}`}
              </button>
            )}
          </div>
          {lead && <div ref={setLeadSlot} className="min-h-[6.75rem] px-4 pt-2 sm:hidden" />}
          <div className={entry ? 'max-sm:hidden' : ''}>
            <Spine
              document={shown?.document ?? document}
              channel={channel}
              answer={shown ? shownAnswer : answer}
              outline={shown ? { document, answer } : null}
              live={shown ? null : live}
              selection={selection}
              topW={zoomed && zoom ? zoom : topW}
              actions={shown ? { ...stillSpine, select: actions.select } : actions}
            />
          </div>
          {Strip && (
            <Suspense fallback={<div className="h-24" />}>
              <Strip document={document} channel={channel} answer={answer} />
            </Suspense>
          )}
          {live && (
            <LiveStrip
              key={state.id}
              {...live}
              plane={selection?.kind === 'plane' ? selection.index : null}
            />
          )}
          <LensTabs stationId={station.id} chainId={state.id} lens={lensId} />
          <div className="flex min-h-0 flex-1 border-t border-rule max-lg:flex-col-reverse max-lg:justify-end">
            <div ref={room} className="min-w-0 flex-1 lg:overflow-y-auto">
              {!chain && sweepError && (
                <div className="max-w-2xl px-5 py-6">
                  <NoFigure
                    message={`The antenna’s sweep could not be loaded: ${errorText(sweepError)}`}
                  />
                </div>
              )}
              {chain && answer && (
                <Suspense>
                  <LeadSlot value={leadSlot}>
                    <Lens
                      station={station}
                      chainId={state.id}
                      document={document}
                      chain={chain}
                      answer={answer}
                      channel={channel}
                      selection={selection}
                      onSelect={select}
                      onPick={pickChannel}
                      edit={actions.edit}
                      put={address.put}
                      onShow={setShown}
                      asTable={asTable}
                      onToggleTable={commands.table}
                    />
                  </LeadSlot>
                </Suspense>
              )}
            </div>
            {selection && !(entry && selection.kind === 'plane') && (
              <div className="w-[320px] shrink-0 border-rule lg:min-h-0 max-lg:w-full max-lg:border-b lg:border-l">
                <Suspense>
                  <SidePanel
                    selection={selection}
                    station={station}
                    document={document}
                    chain={chain}
                    channel={channel}
                    answer={answer}
                    actions={actions}
                    onFile={view.offerFile}
                    onType={() => view.show('typed sweep')}
                  />
                </Suspense>
              </div>
            )}
          </div>
        </main>
        <Suspense fallback={sheet === 'find' && <TypedEarly />}>
          {sheet === 'find' && (
            <Palette
              stationId={station.id}
              go={(to) => void navigate(to)}
              onClose={view.close}
              commands={chainCommands({
                station,
                chainId: state.id,
                document,
                commands: { ...commands, help: openHelp },
                select: actions.select,
                pickChannel,
                openChain,
                go: (to) => void navigate(to),
                openLens: (id) =>
                  void navigate({
                    pathname: chainAddress(station.id, state.id, id),
                    search: location.search,
                  }),
                lenses,
                insert: (choice) => actions.insertAt(placeOf(selection, document), choice),
              })}
            />
          )}
          {sheet === 'history' && (
            <History
              chainId={state.id}
              editor={editor}
              onClose={view.close}
              onTake={(taken) => editor.edit(() => taken)}
            />
          )}
          {sheet === 'rename' && (
            <Dialog title="Rename the chain" onClose={view.close}>
              <TextField
                label="Name"
                value={document.name}
                onChange={(name) => editor.edit((d) => ({ ...d, name }))}
              />
            </Dialog>
          )}
          {(view.file || sheet === 'typed sweep') && (
            <ImportSweep
              file={view.file}
              stationId={station.id}
              document={document}
              channel={channel}
              onClose={closeImport}
              onAdded={(taken) => {
                actions.edit((d) => ({ ...d, load: taken }))
                closeImport()
              }}
              onStage={(index, measured) => {
                actions.insert(index, { ...measured, id: newId(), kind: 'measured' })
                closeImport()
              }}
            />
          )}
          {conflict && (
            <ConflictDialog
              conflict={conflict}
              channel={channel}
              sweep={sweep}
              onResolve={(choice) => void editor.resolve(choice)}
            />
          )}
        </Suspense>
      </div>
    </RangesContext>
  )
}

/** Another chain than the one on the desk, on the same channel. */
const answerShown = (
  { document, chain }: { document: ChainDocument; chain: Chain },
  channelId: string,
): ChannelAnswer | null => {
  const channel = document.channels.find(({ id }) => id === channelId)
  return channel ? answerChannel(chain, document.transmitter, channel) : null
}

/** Where something is inserted when nobody says where: at what is picked out, else at the antenna. */
function placeOf(selection: Selection | null, { stages }: ChainState['document']): number {
  if (selection?.kind === 'plane') return Math.min(selection.index, stages.length)
  if (selection?.kind === 'transmitter') return 0
  if (selection?.kind !== 'stage') return stages.length
  return stages.findIndex(({ id }) => id === selection.id) + 1
}
