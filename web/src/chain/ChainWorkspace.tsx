import { errorText } from '../app/errorText.ts'
import { NoFigure } from '../parts/NoFigure.tsx'
import { type ChainState, newId, type Station } from '@saltline/contract'
import { formatFrequency, formatPower, modeOf } from '@saltline/core'
import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { useNavigate } from 'react-router'
import { sweepQuery } from '../api/queries.ts'
import { Help } from '../app/Help.tsx'
import { useKeys } from '../app/keys.ts'
import { Palette } from '../app/Palette.tsx'
import { ImportSweep } from '../importing/ImportSweep.tsx'
import { AntennaLens } from '../lenses/antenna/AntennaLens.tsx'
import { BudgetLens } from '../lenses/budget/BudgetLens.tsx'
import { LogLens } from '../lenses/log/LogLens.tsx'
import { MatchLens } from '../lenses/match/MatchLens.tsx'
import { HeadroomLens } from '../lenses/headroom/HeadroomLens.tsx'
import { ProfileStrip } from '../lenses/headroom/ProfileStrip.tsx'
import { LensTabs } from './LensTabs.tsx'
import { SidePanel } from '../panel/SidePanel.tsx'
import { Dialog } from '../parts/Dialog.tsx'
import { TextField } from '../parts/TextField.tsx'
import { Spine } from '../spine/Spine.tsx'
import { chainActions } from './actions.ts'
import { answerOf, chainOfDocument } from './answers.ts'
import { ChainHeader } from './ChainHeader.tsx'
import { ChannelBar } from './ChannelBar.tsx'
import { ConflictDialog } from './ConflictDialog.tsx'
import { chainDeeds } from './deeds.ts'
import { RangesContext, useChainRanges } from '../doubt/ranges.ts'
import { withRanges } from '../doubt/withRanges.ts'
import { History } from './History.tsx'
import { useChainAddress } from './useChainAddress.ts'
import { useChainDeeds } from './useChainDeeds.ts'
import { useChainEditor } from './useChainEditor.ts'
import { useChainView } from './useChainView.ts'
import { topOf, zoomOf } from './zoom.ts'

/** A chain on the desk: channels, spine, lens, and the panel of what is picked out. */
export function ChainWorkspace({ station, state }: { station: Station; state: ChainState }) {
  const [editor, snapshot] = useChainEditor(state)
  const address = useChainAddress()
  const { selection, select, pickChannel, openChain } = address
  const view = useChainView()
  const navigate = useNavigate()
  const { sheet, zoomed, asTable } = view
  const { document } = snapshot

  const sweepId = document.load.kind === 'antenna' ? document.load.sweepId : undefined
  const { data: sweep, error: sweepError } = useQuery(sweepQuery(sweepId))
  const { transmitter, stages, load } = document
  // Renaming or adding a channel must not compute the chain anew, nor sweep the band again.
  const chain = useMemo(
    () => chainOfDocument(document, sweep),
    [transmitter, stages, load, sweep], // eslint-disable-line react-hooks/exhaustive-deps
  )
  const channel =
    document.channels.find(({ id }) => id === address.channelId) ?? document.channels[0]!
  const bare = useMemo(
    () => answerOf(chain, transmitter, channel, sweepError),
    [chain, channel, sweepError], // eslint-disable-line react-hooks/exhaustive-deps
  )
  const ranges = useChainRanges(document, chain)
  const answer = useMemo(() => withRanges(bare, ranges.of(channel.id)), [bare, ranges, channel.id])
  const topW = topOf(channel.powerW, answer)
  const zoom = zoomOf(topW, answer)

  const actions = useMemo(
    () => chainActions(editor, select, pickChannel),
    [editor, select, pickChannel],
  )
  const deeds = useChainDeeds(editor, station, state.id, openChain, view)
  useKeys({
    ...Object.fromEntries(
      document.channels.slice(0, 9).map(({ id }, i) => [String(i + 1), () => pickChannel(id)]),
    ),
    'ctrl+z': deeds.undo,
    'ctrl+shift+z': deeds.redo,
    'ctrl+y': deeds.redo,
    'ctrl+k': deeds.find,
    '/': deeds.find,
    '?': deeds.help,
    e: () => select({ kind: 'channel' }),
    s: deeds.spine,
    t: deeds.table,
    z: deeds.zoom,
    Escape: () => select(null),
  })

  return (
    <RangesContext value={ranges}>
      <div
        className={`flex min-h-full flex-col ${address.lens === 'log' ? '' : 'lg:h-full lg:overflow-hidden'}`}
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
          status={snapshot.status}
          refusedEdit={snapshot.refusedEdit}
          onPutBack={actions.putBack}
          revision={snapshot.revision}
          canUndo={snapshot.canUndo}
          canRedo={snapshot.canRedo}
          deeds={deeds}
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
        <main className="flex min-h-0 flex-1 flex-col">
          <h1 className="sr-only">
            {document.name}, {station.name}
          </h1>
          <div className="flex items-center justify-between gap-3 px-4 pt-2 text-sm text-muted">
            <p>
              {formatFrequency(channel.frequencyHz)}, {modeOf(channel.mode).short}, peak envelope
              watts
            </p>
            {zoom && (
              <button
                type="button"
                className="quiet !min-h-6 text-sm"
                aria-pressed={zoomed}
                onClick={deeds.zoom}
              >
                {zoomed ? `back to ${formatPower(topW)}` : `look closer: 0 to ${formatPower(zoom)}`}
              </button>
            )}
          </div>
          {/* On a phone the log is for entering: the spine is a lens away. */}
          <div className={address.lens === 'log' ? 'max-sm:hidden' : ''}>
            <Spine
              document={document}
              channel={channel}
              answer={answer}
              selection={selection}
              topW={zoomed && zoom ? zoom : topW}
              actions={actions}
            />
          </div>
          {address.lens === 'headroom' && (
            <ProfileStrip document={document} channel={channel} answer={answer} />
          )}
          <LensTabs stationId={station.id} chainId={state.id} lens={address.lens} />
          <div className="flex min-h-0 flex-1 border-t border-rule max-lg:flex-col-reverse max-lg:justify-end">
            <div className="min-w-0 flex-1 lg:overflow-y-auto">
              {!chain && sweepError && (
                <div className="max-w-2xl px-5 py-6">
                  <NoFigure
                    message={`The antenna’s sweep could not be had: ${errorText(sweepError)}`}
                  />
                </div>
              )}
              {chain && answer && address.lens === 'antenna' && (
                <AntennaLens
                  station={station}
                  document={document}
                  chain={chain}
                  answer={answer}
                  channel={channel}
                />
              )}
              {chain && address.lens === 'headroom' && (
                <HeadroomLens
                  station={station}
                  chainId={state.id}
                  document={document}
                  chain={chain}
                  channel={channel}
                  onSelect={select}
                  edit={actions.edit}
                />
              )}
              {chain && answer && address.lens === 'match' && (
                <MatchLens
                  document={document}
                  chain={chain}
                  answer={answer}
                  channel={channel}
                  onPick={pickChannel}
                  onSelect={select}
                />
              )}
              {chain && address.lens === 'log' && (
                <LogLens
                  station={station}
                  chainId={state.id}
                  document={document}
                  chain={chain}
                  channel={channel}
                  selection={selection}
                  onSelect={select}
                  onPick={pickChannel}
                  edit={actions.edit}
                  put={address.put}
                />
              )}
              {chain && answer && address.lens === 'budget' && (
                <BudgetLens
                  document={document}
                  chain={chain}
                  answer={answer}
                  channel={channel}
                  selection={selection}
                  onSelect={select}
                  asTable={asTable}
                  onToggleTable={deeds.table}
                  edit={actions.edit}
                />
              )}
            </div>
            {/* In the log a plane is where one reads, not what one looks at. */}
            {selection && !(address.lens === 'log' && selection.kind === 'plane') && (
              <div className="w-[320px] shrink-0 border-rule lg:min-h-0 max-lg:w-full max-lg:border-b lg:border-l">
                <SidePanel
                  selection={selection}
                  station={station}
                  document={document}
                  channel={channel}
                  answer={answer}
                  actions={actions}
                  onFile={view.offerFile}
                />
              </div>
            )}
          </div>
        </main>
        {sheet === 'find' && (
          <Palette
            onClose={view.close}
            deeds={chainDeeds({
              station,
              document,
              deeds,
              select,
              pickChannel,
              openChain,
              go: (to) => void navigate(to),
            })}
          />
        )}
        {sheet === 'help' && <Help onClose={view.close} />}
        {sheet === 'history' && (
          <History
            chainId={state.id}
            revision={snapshot.revision}
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
        {view.file && (
          <ImportSweep
            file={view.file}
            stationId={station.id}
            document={document}
            channel={channel}
            onClose={() => view.offerFile(null)}
            onAdded={(taken) => {
              actions.edit((d) => ({ ...d, load: taken }))
              view.offerFile(null)
            }}
            onStage={(index, measured) => {
              actions.insert(index, { ...measured, id: newId(), kind: 'measured' })
              view.offerFile(null)
            }}
          />
        )}
        {snapshot.conflict && (
          <ConflictDialog
            conflict={snapshot.conflict}
            channel={channel}
            sweep={sweep}
            onResolve={(choice) => void editor.resolve(choice)}
          />
        )}
      </div>
    </RangesContext>
  )
}
