import { type DrillFault, type FindDrill, jacketOf, menuShowsReduced } from '@saltline/core'

/** Looks at a part: no key-down time, but each counts as a reading. */
export function Looks({
  drill,
  left,
  seen,
  onLook,
}: {
  drill: FindDrill
  left: readonly DrillFault[]
  seen: readonly string[]
  onLook: (id: string) => void
}) {
  const { radio, stageNames, jackets } = drill.station
  const things = [
    {
      id: 'menu',
      name: `menu of the ${radio}`,
      shows: menuShowsReduced(left) ? 'reduced power: on' : 'reduced power: off',
    },
    ...stageNames.flatMap((name, k) =>
      jackets[k] === null
        ? []
        : [
            {
              id: `jacket-${k}`,
              name: `jacket of the ${name.toLowerCase()}`,
              shows: `${jacketOf(drill, k, left)}; written down: ${jackets[k]}`,
            },
          ],
    ),
  ]
  return (
    <section aria-label="Look at" className="text-sm">
      <h3 className="text-muted">Look at, as one reading each</h3>
      <ul className="mt-1 space-y-1">
        {things.map(({ id, name, shows }) => (
          <li key={id}>
            {seen.includes(id) ? (
              <>
                {name}: <b>{shows}</b>
              </>
            ) : (
              <button type="button" className="link min-h-6" onClick={() => onLook(id)}>
                {name}
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}
