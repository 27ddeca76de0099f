import { type Attempt, type AttemptBody, newId } from '@saltline/contract'
import { useQuery } from '@tanstack/react-query'
import { useCallback, useRef } from 'react'
import { enterAttempt } from '../../platform/outbox/enter.ts'
import { stationsQuery } from '../../platform/api/queries.ts'
import { usePreferences } from '../../platform/preferences.ts'
import { keepAttempt } from '../../model/attempts.ts'

/** Keeps an attempt in this browser, and under a name with the station where one is given. */
export function useAttempt() {
  const { by } = usePreferences()
  const { data: stations = [] } = useQuery(stationsQuery)
  const kept = useRef(false)
  return useCallback(
    (body: Omit<AttemptBody, 'by'>) => {
      if (kept.current) return
      kept.current = true
      const attempt: Attempt = {
        ...body,
        by: by || 'this browser',
        id: newId(),
        at: new Date().toISOString(),
      }
      keepAttempt(attempt)
      const station = stations[0]
      if (!by || !station) return
      const { id, ...sent } = attempt
      enterAttempt(station.id, id, sent)
    },
    [by, stations],
  )
}
