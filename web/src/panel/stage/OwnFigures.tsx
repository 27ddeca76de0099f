import type { StageDocument } from '@saltline/contract'
import { kindOf } from '../../model/stages/index.ts'
import { FigureFields } from '../../ui/quantities.tsx'
import type { StageFields } from './stageFields.ts'

/** A kind that is known by its figures alone. */
export function OwnFigures({
  stage,
  change,
}: Pick<StageFields<StageDocument['kind']>, 'stage' | 'change'>) {
  const { figures = [], refuse } = kindOf(stage)
  return (
    <FigureFields
      figures={figures}
      values={stage as unknown as Record<string, number>}
      change={change}
      about={Object.fromEntries(
        figures.map(({ key }) => [
          key,
          { refuse: (value: number) => refuse?.({ ...stage, [key]: value }) ?? null },
        ]),
      )}
    />
  )
}
