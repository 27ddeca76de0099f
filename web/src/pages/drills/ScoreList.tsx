import type { Score } from '@saltline/core'

/** The points of a drill, line by line. */
export function ScoreList({ score }: { score: Score }) {
  return (
    <section aria-label="Score">
      <p className="text-[18px]">
        <b className="text-2xl">{score.total}</b> of 100 points.
      </p>
      <dl className="mt-2 grid grid-cols-[1fr_auto] gap-x-4 text-sm">
        {score.lines.map(({ what, points }) => (
          <div
            key={what}
            className="col-span-2 grid grid-cols-subgrid border-b border-rule py-1 last:border-0"
          >
            <dt className="text-muted">{what}</dt>
            <dd className="text-right tabular-nums">{points < 0 ? `−${-points}` : points}</dd>
          </div>
        ))}
      </dl>
    </section>
  )
}
