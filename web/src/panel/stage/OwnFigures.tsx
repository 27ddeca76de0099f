import type { StageDocument } from '@saltline/contract'
import { kindOf } from '../../model/stages/index.ts'
import { FigureFields } from '../../ui/quantities.tsx'

/** A kind that is known by its figures alone. */
export function OwnFigures({
  stage,
  change,
}: {
  stage: StageDocument
  /** Any kind’s: what is given are figures of that kind. */
  change: (part: never) => void
}) {
  const { figures = [], refuse } = kindOf(stage)
  return (
    <FigureFields
      figures={figures}
      values={stage as unknown as Record<string, number>}
      change={(part) => change(part as never)}
      about={Object.fromEntries(
        figures.map(({ key }) => [
          key,
          { refuse: (value: number) => refuse?.({ ...stage, [key]: value }) ?? null },
        ]),
      )}
    />
  )
}
