import { address } from '../../platform/base.ts'
import type { Station } from '@saltline/contract'
import { useQuery } from '@tanstack/react-query'
import { ChevronDown } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { Link } from 'react-router'
import { stationsQuery } from '../../platform/api/queries.ts'
import { chainAddress } from '../../editor/useChainAddress.ts'

/** The station's chains, and what can be done with a whole chain. */
export function ChainMenu({
  station,
  chainId,
  name,
  onOpen,
  onRename,
  onCopy,
  onDelete,
}: {
  station: Station
  chainId: string
  name: string
  onOpen: (id: string) => void
  onRename: () => void
  onCopy: () => void
  onDelete: () => void
}) {
  const { data: stations = [] } = useQuery(stationsQuery)
  const others = stations.filter(({ id, chains }) => id !== station.id && chains.length > 0)
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="quiet min-w-0 !px-1.5 font-bold !text-ink">
        <span className="truncate">{name}</span>
        <ChevronDown size={15} className="shrink-0" aria-hidden />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu" align="start" sideOffset={4} collisionPadding={8}>
          <DropdownMenu.Label className="px-3 py-1 text-xs text-muted">
            Chains of {station.name}
          </DropdownMenu.Label>
          {station.chains.map((chain) => (
            <DropdownMenu.Item
              key={chain.id}
              className="menu-item"
              onSelect={() => onOpen(chain.id)}
            >
              <span className="w-5">{chain.id === chainId ? '●' : ''}</span>
              {chain.id === chainId ? name : chain.name}
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Separator className="my-1 border-t border-rule" />
          <DropdownMenu.Item className="menu-item" onSelect={onRename}>
            Rename this chain
          </DropdownMenu.Item>
          <DropdownMenu.Item className="menu-item" onSelect={onCopy}>
            Copy as a new chain
          </DropdownMenu.Item>
          <DropdownMenu.Item className="menu-item" onSelect={onDelete}>
            Delete this chain
          </DropdownMenu.Item>
          <DropdownMenu.Separator className="my-1 border-t border-rule" />
          <DropdownMenu.Item className="menu-item" asChild>
            <a href={address(`/api/stations/${station.id}/file`)} download={`${station.name}.json`}>
              Save the station as a file
            </a>
          </DropdownMenu.Item>
          <DropdownMenu.Item className="menu-item" asChild>
            <Link to="/new">New station, or one from a file</Link>
          </DropdownMenu.Item>
          {others.map((other) => (
            <DropdownMenu.Item key={other.id} className="menu-item" asChild>
              <Link to={chainAddress(other.id, other.chains[0]!.id)}>Go to {other.name}</Link>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
