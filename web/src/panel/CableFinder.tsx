import type { Gear } from '@saltline/contract'
import {
  attenuationDbPer100m,
  cableClasses,
  decimals,
  findsCable,
  formatFrequency,
} from '@saltline/core'
import { Command } from 'cmdk'
import { Popover } from 'radix-ui'
import { useTypedEarly } from '../ui/TypedEarly.tsx'
import { type RefObject, useState } from 'react'

/** A cable by whatever it is called: its size, its marking, its trade size in inches. The first that fits is one Enter away. */
export default function CableFinder({
  own,
  frequencyHz,
  beside,
  onClose,
  onPick,
}: {
  /** What it opens beside, and where the focus goes back to. */
  beside: RefObject<HTMLButtonElement | null>
  onClose: () => void
  own: readonly (Gear & { kind: 'cable' })[]
  frequencyHz: number
  onPick: (id: string) => void
}) {
  const [query, setQuery] = useState('')
  useTypedEarly(setQuery)
  const found = [
    ...own
      .filter(({ document }) => findsCable(document, query))
      .map(({ id, document }) => ({ id, cable: document, marking: 'of this station' })),
    ...cableClasses
      .filter((sheet) => findsCable({ ...sheet, sheet }, query))
      .map((cable) => ({ id: cable.id, cable, marking: cable.jacketMarkings[0] })),
  ]
  return (
    <Popover.Root open onOpenChange={onClose}>
      <Popover.Anchor virtualRef={beside} />
      <Popover.Portal>
        <Popover.Content
          align="end"
          aria-label="Find a cable"
          className="z-50 w-[min(300px,calc(100vw-24px))] overflow-hidden rounded-lg border border-edge bg-sheet"
          onCloseAutoFocus={(event) => {
            event.preventDefault()
            beside.current?.focus()
          }}
        >
          <Command label="Find a cable" shouldFilter={false} loop>
            <Command.Input
              // It was opened to type into.
              autoFocus
              value={query}
              onValueChange={setQuery}
              placeholder="½ inch, RG58, 10 mm foam…"
              className="w-full border-b border-rule bg-transparent px-3 py-2 outline-none placeholder:text-muted"
            />
            <Command.List className="max-h-64 overflow-y-auto py-1">
              <Command.Empty className="px-3 py-2 text-sm text-muted">
                No cable is called that. Gear has all of them, and takes your own.
              </Command.Empty>
              {found.map(({ id, cable, marking }) => (
                <Command.Item
                  key={id}
                  value={id}
                  className="menu-item"
                  onSelect={() => {
                    onClose()
                    onPick(id)
                  }}
                >
                  <span>
                    {cable.name}
                    {marking && <span className="block text-xs text-muted">{marking}</span>}
                  </span>
                  <span className="ml-auto pl-4 text-xs whitespace-nowrap text-muted">
                    {decimals(attenuationDbPer100m(cable, frequencyHz), 1)} dB/100 m
                  </span>
                </Command.Item>
              ))}
            </Command.List>
            <p className="border-t border-rule px-3 py-1.5 text-xs text-muted">
              Loss at {formatFrequency(frequencyHz)}.
            </p>
          </Command>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
