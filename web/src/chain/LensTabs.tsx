import { Link, useLocation } from 'react-router'
import { chainAddress, type Lens, lenses } from './useChainAddress.ts'

const names: Record<Lens, string> = { budget: 'Budget', antenna: 'Antenna' }

/** Which question is asked of the chain. Channel and selection stay as they are. */
export function LensTabs({
  stationId,
  chainId,
  lens,
}: {
  stationId: string
  chainId: string
  lens: Lens
}) {
  const { search } = useLocation()
  return (
    <nav aria-label="Lenses" className="-mb-px flex gap-1 bg-paper px-4 pt-1.5">
      {lenses.map((each) => (
        <Link
          key={each}
          to={chainAddress(stationId, chainId, each) + search}
          aria-current={each === lens ? 'page' : undefined}
          className={`rounded-t-md border px-4 py-1 ${
            each === lens
              ? 'border-rule border-b-sheet bg-sheet font-bold'
              : 'border-transparent text-muted hover:text-ink'
          }`}
        >
          {names[each]}
        </Link>
      ))}
    </nav>
  )
}
