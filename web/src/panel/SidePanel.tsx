import { X } from 'lucide-react'
import { useEffect, useLayoutEffect, useRef } from 'react'
import { forgetPanelWish, usePanelWish } from '../editor/panelFocus.ts'
import { type Selection, writeSelection } from '../model/selection.ts'
import { kindOf } from '../model/stages/index.ts'
import { AntennaPanel } from './AntennaPanel.tsx'
import { ChannelPanel } from './ChannelPanel.tsx'
import type { PanelProps } from './panelProps.ts'
import { PlanePanel } from './PlanePanel.tsx'
import { StagePanel } from './StagePanel.tsx'
import { TransmitterPanel } from './TransmitterPanel.tsx'

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
      return stage ? kindOf(stage).title(stage) : 'Stage'
    }
  }
}

const close = <X size={17} aria-hidden />

/** Where one lands in a panel, in this order. */
const BUTTON = 'div:nth-of-type(2) :is(button, a)'
const FIELD = ['input[inputmode]', 'select', 'input', BUTTON]
const INSERT = ['[data-insert] button']
/** At a plane one looks, and measures: nothing that is typed there is meant before its field is picked. */
const PLANE = [BUTTON]

/** What is folded away takes no focus, and is passed over. */
function focusFirst(panel: HTMLElement, order: readonly string[]): void {
  for (const kind of order)
    for (const found of panel.querySelectorAll<HTMLElement>(kind)) {
      found.focus()
      if (document.activeElement === found) return
    }
}

/** What is picked out on the spine, to look at and to change; live. */
export function SidePanel({ selection, ...props }: PanelProps & { selection: Selection }) {
  const ref = useRef<HTMLElement>(null)
  const item = writeSelection(selection)
  const itemOf = useRef(item)
  const wish = usePanelWish()
  useEffect(() => {
    // On a narrow screen the panel stands below the spine, perhaps out of sight.
    const panel = ref.current!
    if (panel.getBoundingClientRect().top > innerHeight - 120)
      panel.scrollIntoView({ block: 'start' })
    itemOf.current = item
  }, [item])
  useEffect(() => {
    if (wish?.item !== item) return
    const plane = item.startsWith('plane')
    focusFirst(ref.current!, wish.part === 'insert' ? INSERT : plane ? PLANE : FIELD)
    forgetPanelWish()
  }, [wish, item])
  useLayoutEffect(
    () => () => {
      // Closed, the panel gives the focus back to what it was about, before it is looked for anywhere else.
      const origin = document.querySelector<HTMLElement>(`[data-item="${itemOf.current}"]`)
      setTimeout(() => {
        if (document.activeElement === document.body) origin?.focus()
      })
    },
    [],
  )
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
          {close}
        </button>
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto px-5 py-3" key={item}>
        {selection.kind === 'transmitter' && <TransmitterPanel {...props} />}
        {selection.kind === 'antenna' && <AntennaPanel {...props} />}
        {selection.kind === 'channel' && <ChannelPanel {...props} />}
        {selection.kind === 'plane' && <PlanePanel {...props} index={selection.index} />}
        {selection.kind === 'stage' && <StagePanel {...props} id={selection.id} />}
      </div>
    </aside>
  )
}
