import { useLocation } from 'react-router'
import { Tabs } from '../parts/Tabs.tsx'
import { chainAddress, type Lens, lenses } from './useChainAddress.ts'

const names: Record<Lens, string> = {
  budget: 'Budget',
  headroom: 'Headroom',
  antenna: 'Antenna',
  match: 'Match',
  log: 'Log',
}

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
    <Tabs
      name="Lenses"
      tabs={lenses.map((each) => ({
        to: chainAddress(stationId, chainId, each) + search,
        label: names[each],
        current: each === lens,
      }))}
    />
  )
}
