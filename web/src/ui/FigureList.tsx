/** Names on the left, figures on the right, one a line. */
export function FigureList({
  rows,
}: {
  rows: readonly (readonly [name: React.ReactNode, figure: string])[]
}) {
  return (
    <dl className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-4 text-sm">
      {rows.map(([name, figure], i) => (
        <div
          key={i}
          className="col-span-2 grid grid-cols-subgrid border-b border-rule py-1 last:border-0"
        >
          <dt className="text-muted">{name}</dt>
          <dd className="text-right">{figure}</dd>
        </div>
      ))}
    </dl>
  )
}
