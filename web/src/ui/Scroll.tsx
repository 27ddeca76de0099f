/** Something wider than the window may be: it scrolls by itself, by keyboard too. */
export const Scroll = ({
  label,
  className = '',
  children,
}: {
  label: string
  className?: string
  children: React.ReactNode
}) => (
  <div
    role="group"
    aria-label={label}
    tabIndex={0}
    className={`relative overflow-x-auto ${className}`}
  >
    {children}
  </div>
)
