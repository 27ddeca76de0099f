import { useState } from 'react'

/** What has the focus now; of a menu, the button that opened it, since the menu is about to go. */
function focused(): HTMLElement | null {
  const active = document.activeElement as HTMLElement | null
  const menu = active?.closest('[role="menu"]')
  return menu ? document.getElementById(menu.getAttribute('aria-labelledby') ?? '') : active
}

/**
 * Gives the focus back to where it was when a dialog opened, unless it has gone somewhere by itself. For Radix'
 * `onCloseAutoFocus`, which knows only a button of its own.
 */
export function useFocusBack(): (event: Event) => void {
  const [before] = useState(focused)
  return (event) => {
    event.preventDefault()
    // What was chosen in the dialog may have moved the focus, or will in this moment.
    setTimeout(() => {
      const now = document.activeElement
      if ((now === null || now === document.body) && before?.isConnected) before.focus()
    })
  }
}
