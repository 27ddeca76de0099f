import { X } from 'lucide-react'
import { Dialog as Radix } from 'radix-ui'
import { useFocusBack } from './useFocusBack.ts'

/** A sheet over the page with a title, for as long as it is rendered; Escape and a click beside it close it. */
export function Dialog({
  title,
  onClose,
  wide = false,
  children,
}: {
  title: string
  onClose: () => void
  /** For a drawing. */
  wide?: boolean
  children: React.ReactNode
}) {
  const focusBack = useFocusBack()
  return (
    <Radix.Root open onOpenChange={onClose}>
      <Radix.Portal>
        <Radix.Overlay className="overlay" />
        <Radix.Content
          className={wide ? 'dialog dialog-wide' : 'dialog'}
          aria-describedby={undefined}
          onOpenAutoFocus={toFirstField}
          onCloseAutoFocus={focusBack}
        >
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

/** A dialog opens on its first field; without one on its first button, and on Close where there is nothing else. */
function toFirstField(event: Event): void {
  const dialog = event.currentTarget as HTMLElement
  const first =
    dialog.querySelector<HTMLElement>(
      'input:not([type=file]):not([tabindex="-1"]), select, textarea',
    ) ?? dialog.querySelector<HTMLElement>('.button')
  if (!first) return
  event.preventDefault()
  first.focus()
}
