import { Link } from 'react-router'
import { Mark } from './Mark.tsx'

/** The head of every page: the mark, where one is, and what can be done anywhere. */
export function Header({
  children,
  tools,
}: {
  children?: React.ReactNode
  tools?: React.ReactNode
}) {
  return (
    <header className="flex min-h-[45px] flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule bg-paper px-4 py-1 max-sm:px-2">
      <Link to="/" className="flex items-center gap-2.5 font-bold">
        <Mark />
        <span className="text-base max-sm:sr-only">Salt Line</span>
      </Link>
      <div className="flex min-w-0 flex-1 flex-wrap items-center gap-x-1.5">{children}</div>
      <div className="flex items-center">{tools}</div>
    </header>
  )
}
