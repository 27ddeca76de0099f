import { chainAddress } from '../../editor/useChainAddress.ts'
import { runSheets } from '@saltline/core'
import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { stationsQuery } from '../../platform/api/queries.ts'
import { Term } from '../../shell/Term.tsx'

/** What to remember of a drill, with the way to the term and to the run sheet. */
export function LessonText({
  text,
  term,
  sheet,
  caught = 'The run sheet that would have caught it',
}: {
  text: string
  term: string
  sheet: string | null
  caught?: string
}) {
  const { data: stations = [] } = useQuery(stationsQuery)
  const station = stations.find(({ chains }) => chains.length > 0)
  const title = runSheets.find(({ id }) => id === sheet)?.title
  return (
    <section aria-label="Lesson">
      <p className="max-w-prose">{text}</p>
      <p className="mt-2 text-sm text-muted">
        In the glossary: <Term>{term}</Term>.
        {title && (
          <>
            {' '}
            {caught}:{' '}
            {station ? (
              <Link className="link" to={chainAddress(station.id, station.chains[0]!.id, 'run')}>
                {title}
              </Link>
            ) : (
              title
            )}
            .
          </>
        )}
      </p>
    </section>
  )
}
