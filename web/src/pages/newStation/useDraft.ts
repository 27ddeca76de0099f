import { useEffect, useState } from 'react'
import { firstDraft, type StationDraft } from '../../model/stationDraft.ts'

const keyOf = (stationId: string | undefined) => `saltline-draft-${stationId ?? 'station'}`

/** What was entered so far; it outlives a reload of this window. */
export function useDraft(stationId: string | undefined) {
  const [draft, setDraft] = useState(() => recalled(stationId))
  useEffect(() => {
    try {
      sessionStorage.setItem(keyOf(stationId), JSON.stringify(draft))
    } catch {
      // Then it lasts as long as the page.
    }
  }, [stationId, draft])
  return {
    draft,
    set: (change: Partial<StationDraft>) => setDraft((old) => ({ ...old, ...change })),
    forget: () => sessionStorage.removeItem(keyOf(stationId)),
  }
}

function recalled(stationId: string | undefined): StationDraft {
  const first = stationId === undefined ? firstDraft : { ...firstDraft, chain: 'New chain' }
  try {
    const kept = JSON.parse(sessionStorage.getItem(keyOf(stationId)) ?? '{}') as object
    return { ...first, ...kept }
  } catch {
    return first
  }
}
