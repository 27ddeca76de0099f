import { memo } from 'react'
import { useLocation } from 'react-router'
import { chainAddress } from '../../editor/useChainAddress.ts'
import type { LensId } from '../../editor/lens.ts'
import { lenses } from '../../lenses/index.ts'
import { Tabs } from '../../ui/Tabs.tsx'

/** Which question is asked of the chain. Channel and selection stay as they are. */
export const LensTabs = memo(function LensTabs({
  stationId,
  chainId,
  lens,
}: {
  stationId: string
  chainId: string
  lens: LensId
}) {
  const { search } = useLocation()
  return (
    <Tabs
      name="Lenses"
      tabs={lenses.map(({ id, name }) => ({
        to: chainAddress(stationId, chainId, id) + search,
        label: name,
        current: id === lens,
      }))}
    />
  )
})
