import { createContext, type ReactNode, useContext, useSyncExternalStore } from 'react'
import { createPortal } from 'react-dom'

/** Where a phone has the sentence of a lens: above the spine, which alone fills its window. */
export const LeadSlot = createContext<HTMLElement | null>(null)

const narrow = matchMedia('(max-width: 639px)')

const onNarrow = (changed: () => void) => {
  narrow.addEventListener('change', changed)
  return () => narrow.removeEventListener('change', changed)
}

/** Puts the sentence that a lens begins with where it is read first. */
export function useLead(): (sentence: ReactNode) => ReactNode {
  const slot = useContext(LeadSlot)
  const phone = useSyncExternalStore(onNarrow, () => narrow.matches)
  return (sentence) => (phone && slot ? createPortal(sentence, slot) : sentence)
}
