import { X } from 'lucide-react'
import { Dialog as Radix } from 'radix-ui'

/** A sheet over the page with a title, for as long as it is rendered; Escape and a click beside it close it. */
export function Dialog({
  title,
  onClose,
  children,
}: {
  title: string
  onClose: () => void
  children: React.ReactNode
}) {
  return (
    <Radix.Root open onOpenChange={onClose}>
      <Radix.Portal>
        <Radix.Overlay className="overlay" />
        <Radix.Content className="dialog" aria-describedby={undefined}>
          <div className="mb-3 flex items-start justify-between gap-4">
            <Radix.Title className="text-lg font-bold">{title}</Radix.Title>
            <Radix.Close className="quiet -mt-1 -mr-2" aria-label="Close">
              <X size={18} aria-hidden />
            </Radix.Close>
          </div>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  )
}
