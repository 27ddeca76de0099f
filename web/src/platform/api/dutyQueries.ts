/** What has to be done again and again, and when it is due. */
import type { DutyBody } from '@saltline/contract'
import { queryOptions } from '@tanstack/react-query'
import { call } from './client.ts'
import { lookAgain } from './changes.ts'
import { queryClient } from './queries.ts'

/** Days are counted where the operator is. */
export const zone = (): string => Intl.DateTimeFormat().resolvedOptions().timeZone

const inZone = () => new URLSearchParams({ zone: zone() })

/** Of the log: a reading, a run or a bench sheet may be what was due. */
export const dutiesQuery = (stationId: string) =>
  queryOptions({
    queryKey: ['log', 'duties', stationId],
    queryFn: () =>
      call('GET /stations/:stationId/duties', { params: { stationId }, query: inZone() }),
    refetchInterval: lookAgain,
  })

export const offeredDutiesQuery = (stationId: string) =>
  queryOptions({
    queryKey: ['log', 'duties offered', stationId],
    queryFn: () =>
      call('GET /stations/:stationId/duties/offered', { params: { stationId }, query: inZone() }),
  })

async function afterDutiesChange(): Promise<void> {
  await queryClient.invalidateQueries({ queryKey: ['log'] })
  await queryClient.invalidateQueries({ queryKey: ['bin'] })
}

export async function addDuty(stationId: string, body: DutyBody): Promise<string> {
  const { id } = await call('POST /stations/:stationId/duties', { params: { stationId }, body })
  await afterDutiesChange()
  return id
}

export async function changeDuty(dutyId: string, body: DutyBody): Promise<void> {
  await call('PUT /duties/:dutyId', { params: { dutyId }, body })
  await afterDutiesChange()
}

export async function deleteDuty(dutyId: string): Promise<void> {
  await call('DELETE /duties/:dutyId', { params: { dutyId } })
  await afterDutiesChange()
}

export async function restoreDuty(dutyId: string): Promise<void> {
  await call('POST /duties/:dutyId/restore', { params: { dutyId } })
  await afterDutiesChange()
}

export async function declineDuty(stationId: string, shipped: string): Promise<void> {
  await call('POST /stations/:stationId/duties/declined', {
    params: { stationId },
    body: { shipped },
  })
  await afterDutiesChange()
}
