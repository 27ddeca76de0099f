import { useCallback, useState } from 'react'

/** The sheet that lies over the page, if any. */
export type Sheet = 'find' | 'history' | 'rename' | 'typed sweep'

export interface ChainView {
  sheet: Sheet | null
  zoomed: boolean
  asTable: boolean
  /** A sweep file that was chosen or dropped and waits to be taken in. */
  file: File | null
  offerFile: (file: File | null) => void
  show: (sheet: Sheet) => void
  close: () => void
  toggleZoom: () => void
  toggleTable: () => void
}

/** How the page is looked at: nothing of it belongs to the chain, and nothing of it is kept. */
export function useChainView(): ChainView {
  const [sheet, setSheet] = useState<Sheet | null>(null)
  const [zoomed, setZoomed] = useState(false)
  const [asTable, setAsTable] = useState(false)
  const [file, setFile] = useState<File | null>(null)
  return {
    file,
    offerFile: setFile,
    sheet,
    zoomed,
    asTable,
    show: setSheet,
    close: useCallback(() => setSheet(null), []),
    toggleZoom: useCallback(() => setZoomed((on) => !on), []),
    toggleTable: useCallback(() => setAsTable((on) => !on), []),
  }
}
