import { Command } from 'cmdk'
import { Dialog } from 'radix-ui'

export interface Deed {
  id: string
  group: string
  label: string
  hint?: string
  run: () => void
}

/** Find and do anything, by typing a few letters of it. */
export function Palette({ onClose, deeds }: { onClose: () => void; deeds: readonly Deed[] }) {
  const groups = [...new Set(deeds.map(({ group }) => group))]
  return (
    <Dialog.Root open onOpenChange={onClose}>
      <Dialog.Portal>
        <Dialog.Overlay className="overlay" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[12vh] left-1/2 z-50 w-[min(560px,calc(100vw-24px))] -translate-x-1/2 overflow-hidden rounded-xl border border-rule bg-sheet"
        >
          <Dialog.Title className="sr-only">Find and do anything</Dialog.Title>
          <Command label="Find and do anything" loop>
            <Command.Input
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
                  {deeds
                    .filter((deed) => deed.group === group)
                    .map((deed) => (
                      <Command.Item
                        key={deed.id}
                        value={`${deed.label} ${deed.id}`}
                        className="menu-item !px-4"
                        onSelect={() => {
                          onClose()
                          deed.run()
                        }}
                      >
                        {deed.label}
                        {deed.hint && (
                          <span className="ml-auto pl-4 text-xs text-muted">{deed.hint}</span>
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
