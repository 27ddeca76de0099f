import { toast } from 'sonner'
import { errorText } from './errorText.ts'

/** What an action comes to: a sentence for the operator, and the way back where there is one. */
export interface Done {
  said: string
  undo?: () => Promise<unknown>
}

/**
 * Does something that may fail. What was done is said, with its undo; a failure is said in words, with a
 * button to try again. Nothing is swallowed.
 *
 * @returns whether it was done
 */
export async function act(work: () => Promise<Done | void>): Promise<boolean> {
  try {
    const done = await work()
    if (done) {
      const { said, undo } = done
      toast(said, {
        ...(undo && {
          duration: 15_000,
          action: {
            label: 'Undo',
            onClick: () =>
              void act(async () => {
                await undo()
              }),
          },
        }),
      })
    }
    return true
  } catch (error) {
    toast(`⚠ ${errorText(error)}`, {
      duration: 20_000,
      action: { label: 'Try again', onClick: () => void act(work) },
    })
    return false
  }
}

/** Copies text; where the browser gives no clipboard (plain HTTP), by a selection as of old. */
export async function copyText(text: string): Promise<void> {
  if (navigator.clipboard && window.isSecureContext) return navigator.clipboard.writeText(text)
  const area = document.createElement('textarea')
  area.value = text
  area.style.position = 'fixed'
  area.style.opacity = '0'
  document.body.append(area)
  area.select()
  // Deprecated, and the only way where a page is served without TLS.
  const copied = document.execCommand('copy')
  area.remove()
  if (!copied)
    throw new Error('This browser does not let the page copy. Select the text and press Ctrl + C.')
}

/** Saves text as a file. */
export function saveFile(name: string, text: string, type: string): void {
  const url = URL.createObjectURL(new Blob([text], { type }))
  const link = document.createElement('a')
  link.href = url
  link.download = name
  document.body.append(link)
  link.click()
  link.remove()
  // Some browsers read the file only after the click has returned.
  setTimeout(() => URL.revokeObjectURL(url), 60_000)
}
