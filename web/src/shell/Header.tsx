import { Link, NavLink } from 'react-router'
import { Mark } from './Mark.tsx'
import { WaitingBadge } from './WaitingBadge.tsx'

/** The head of every page: the mark, where one is, where one can go, and what can be done anywhere. */
export function Header({
  stationId,
  children,
  tools,
}: {
  /** Null while it is not known yet. */
  stationId?: string | null | undefined
  children?: React.ReactNode
  tools?: React.ReactNode
}) {
  return (
    <header className="flex min-h-[45px] flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule bg-paper px-4 py-1 max-sm:px-2">
      <Link to="/" className="flex shrink-0 items-center gap-2.5 font-bold" title="To the board">
        <Mark />
        <span className="text-base max-sm:sr-only">Salt Line</span>
      </Link>
      <div className="flex min-w-0 flex-1 flex-wrap items-center gap-x-1.5 max-sm:flex-nowrap max-sm:gap-x-0">
        {children}
      </div>
      <div className="flex items-center max-sm:order-last max-sm:w-full max-sm:justify-between">
        <nav aria-label="Pages" className="flex">
          <Place to="/quick">Quick sum</Place>
          {stationId !== undefined && (
            // Their room is theirs before it is known where they lead.
            <span className={stationId === null ? 'invisible flex' : 'flex'}>
              <Place to={`/station/${stationId}`} end>
                Station
              </Place>
              <Place to={`/station/${stationId}/bench`}>Bench</Place>
              <Place to={`/station/${stationId}/gear`}>Gear</Place>
            </span>
          )}
          <Place to="/drills">Drills</Place>
        </nav>
        <WaitingBadge />
      </div>
      <div className="flex shrink-0 items-center">{tools}</div>
    </header>
  )
}

const Place = ({
  to,
  end = false,
  children,
}: {
  to: string
  /** Whether addresses below it are places of their own. */
  end?: boolean
  children: React.ReactNode
}) => (
  <NavLink
    to={to}
    end={end}
    className={({ isActive }) => `quiet ${isActive ? '!text-ink font-bold' : ''}`}
  >
    {children}
  </NavLink>
)
