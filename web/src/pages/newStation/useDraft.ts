import { firstDraft } from '../../model/stationDraft.ts'
import { useKept } from '../../platform/useKept.ts'

/** What was entered so far. */
export function useDraft(stationId: string | undefined) {
  const first = stationId === undefined ? firstDraft : { ...firstDraft, chain: 'New chain' }
  const { value, put, forget } = useKept(`draft.${stationId ?? 'station'}`, first)
  return { draft: value, set: put, forget }
}
