import { useQuery } from '@tanstack/react-query'
import { memo } from 'react'
import { Link } from 'react-router'
import { gonePart } from '../model/things.ts'
import { thingsQuery } from '../platform/api/thingQueries.ts'

/** Parts of a chain that were moved to another one: said wherever the chain is seen. */
export const GoneParts = memo(function GoneParts({
  stationId,
  chainId,
  className,
}: {
  stationId: string
  chainId: string
  className?: string
}) {
  const { data: things = [] } = useQuery(thingsQuery(stationId))
  const gone = things.flatMap((thing) => gonePart(thing, chainId) ?? [])
  return gone.map(({ id, words }) => (
    <p key={id} className={`text-sm text-caution ${className ?? ''}`}>
      ▲{' '}
      <Link className="link" to={`/station/${stationId}/thing/${id}`}>
        {words}
      </Link>
    </p>
  ))
})
