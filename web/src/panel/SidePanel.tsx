import type { ChainDocument, ChannelDocument, Station } from '@saltline/contract'
import { X } from 'lucide-react'
import { useEffect, useRef } from 'react'
import type { ChainActions } from '../chain/actions.ts'
import type { ChannelAnswer } from '../chain/answers.ts'
import type { Selection } from '../chain/selection.ts'
import { AntennaPanel } from './AntennaPanel.tsx'
import { ChannelPanel } from './ChannelPanel.tsx'
import { PlanePanel } from './PlanePanel.tsx'
import { StagePanel } from './StagePanel.tsx'
import { TransmitterPanel } from './TransmitterPanel.tsx'

export interface PanelProps {
  station: Station
  document: ChainDocument
  channel: ChannelDocument
  answer: ChannelAnswer | null
  actions: ChainActions
  /** A sweep file was chosen. */
  onFile: (file: File) => void
}

const kindWords = {
  line: 'Cable',
  series: 'Series part',
  shunt: 'Shunt part',
  measured: 'Measured part',
  tuner: 'Tuner',
  amplifier: 'Amplifier',
} as const

function titleOf(selection: Selection, { document }: PanelProps): string {
  switch (selection.kind) {
    case 'transmitter':
      return 'Transmitter'
    case 'antenna':
      return 'Antenna'
    case 'channel':
      return 'Channel'
    case 'plane':
      return `Plane ${selection.index}`
    case 'stage': {
      const stage = document.stages.find(({ id }) => id === selection.id)
      if (!stage) return 'Stage'
      if (stage.kind !== 'pad') return kindWords[stage.kind]
      return stage.part === 'attenuator'
        ? 'Pad'
        : stage.part[0]!.toUpperCase() + stage.part.slice(1)
    }
  }
}

/** What is picked out on the spine, to look at and to change; live. */
export function SidePanel({ selection, ...props }: PanelProps & { selection: Selection }) {
  const ref = useRef<HTMLElement>(null)
  const key = JSON.stringify(selection)
  useEffect(() => {
    // On a narrow screen the panel stands below the spine, perhaps out of sight.
    if (ref.current && ref.current.getBoundingClientRect().top > innerHeight - 120)
      ref.current.scrollIntoView({ block: 'start' })
  }, [key])
  return (
    <aside
      ref={ref}
      aria-label={titleOf(selection, props)}
      className="flex h-full flex-col bg-sheet"
    >
      <div className="flex items-center justify-between border-b border-rule px-5 py-2.5">
        <h2 className="font-bold">{titleOf(selection, props)}</h2>
        <button
          type="button"
          className="quiet -mr-2"
          aria-label="Close the panel"
          onClick={props.actions.deselect}
        >
          <X size={17} aria-hidden />
        </button>
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto px-5 py-3" key={key}>
        {selection.kind === 'transmitter' && <TransmitterPanel {...props} />}
        {selection.kind === 'antenna' && <AntennaPanel {...props} />}
        {selection.kind === 'channel' && <ChannelPanel {...props} />}
        {selection.kind === 'plane' && <PlanePanel {...props} index={selection.index} />}
        {selection.kind === 'stage' && <StagePanel {...props} id={selection.id} />}
      </div>
    </aside>
  )
}
