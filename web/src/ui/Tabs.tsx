import { Link } from 'react-router'
import { intoView } from './intoView.ts'

/** Leaves of one page, each with its own address. */
export function Tabs({
  name,
  tabs,
}: {
  name: string
  tabs: readonly { to: string; label: string; current: boolean }[]
}) {
  return (
    <nav
      aria-label={name}
      className="-mb-px flex gap-1 overflow-x-auto bg-paper px-4 pt-1.5 max-sm:px-1"
    >
      {tabs.map(({ to, label, current }) => (
        <Link
          key={label}
          ref={current ? intoView : undefined}
          to={to}
          aria-current={current ? 'page' : undefined}
          className={`rounded-t-md border px-4 py-1 whitespace-nowrap max-sm:px-2.5 ${
            current
              ? 'border-rule border-b-sheet bg-sheet font-bold'
              : 'border-transparent text-muted hover:text-ink'
          }`}
        >
          {label}
        </Link>
      ))}
    </nav>
  )
}
