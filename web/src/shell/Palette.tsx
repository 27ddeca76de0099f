import { Command } from 'cmdk'
import { Dialog } from 'radix-ui'
import { useMemo, useState } from 'react'
import { useTypedEarly } from '../ui/TypedEarly.tsx'
import { useFocusBack } from '../ui/useFocusBack.ts'
import { knownThings } from './known.ts'
import type { PaletteItem } from './paletteItem.ts'

/** Find and do anything, by typing a few letters of it. */
export default function Palette({
  onClose,
  commands: own,
  stationId,
  go,
}: {
  onClose: () => void
  commands: readonly PaletteItem[]
  stationId: string | undefined
  go: (to: string) => void
}) {
  const commands = useMemo(() => [...own, ...knownThings(stationId, go)], [own, stationId, go])
  const [query, setQuery] = useState('')
  useTypedEarly(setQuery)
  const focusBack = useFocusBack()
  const groups = [...new Set(commands.map(({ group }) => group))]
  return (
    <Dialog.Root open onOpenChange={onClose}>
      <Dialog.Portal>
        <Dialog.Overlay className="overlay" />
        <Dialog.Content
          aria-describedby={undefined}
          onCloseAutoFocus={focusBack}
          className="fixed top-[12vh] left-1/2 z-50 w-[min(560px,calc(100vw-24px))] -translate-x-1/2 overflow-hidden rounded-xl border border-rule bg-sheet"
        >
          <Dialog.Title className="sr-only">Find and do anything</Dialog.Title>
          <Command label="Find and do anything" loop filter={rank}>
            <Command.Input
              value={query}
              onValueChange={setQuery}
              placeholder="Find a stage, a channel, a chain, a thing to do"
              className="w-full border-b border-rule bg-transparent px-4 py-3 text-base outline-none placeholder:text-muted"
            />
            <Command.List className="max-h-[50vh] overflow-y-auto py-1.5">
              <Command.Empty className="px-4 py-3 text-muted">
                Nothing by that name here.
              </Command.Empty>
              {groups.map((group) => (
                <Command.Group
                  key={group}
                  heading={group}
                  className="[&_[cmdk-group-heading]]:px-4 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:pb-1 [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:text-muted"
                >
                  {commands
                    .filter((item) => item.group === group)
                    .map((item) => (
                      <Command.Item
                        key={item.id}
                        value={`${item.label} ${item.hint ?? ''} ${item.words ?? ''} ${item.id}`}
                        className="menu-item !px-4"
                        onSelect={() => {
                          onClose()
                          item.run()
                        }}
                      >
                        {item.label}
                        {item.hint && (
                          <span className="ml-auto pl-4 text-xs text-muted">{item.hint}</span>
                        )}
                      </Command.Item>
                    ))}
                </Command.Group>
              ))}
            </Command.List>
          </Command>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

/** All words of what is sought must be there; what begins with it comes first, then what has a word that does. */
function rank(value: string, sought: string): number {
  const [text, wanted] = [value.toLowerCase(), sought.trim().toLowerCase()]
  if (text.startsWith(wanted)) return 1
  const words = wanted.split(/\s+/)
  if (!words.every((word) => text.includes(word))) return 0
  return words.every((word) => text.startsWith(word) || text.includes(` ${word}`)) ? 0.8 : 0.5
}
