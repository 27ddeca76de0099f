/** What can be found beside pages and commands: cables by what people call them, worksheets, exercises. */
import { cableClasses, exercises, tradeSizeOf } from '@saltline/core'
import { newSeed } from '../model/attempts.ts'
import { worksheetWords } from '../model/worksheetWords.ts'
import type { PaletteItem } from './paletteItem.ts'

export const knownThings = (
  stationId: string | undefined,
  go: (to: string) => void,
): PaletteItem[] => [
  ...(stationId === undefined
    ? []
    : [
        ...Object.entries(worksheetWords).map(([kind, { title, purpose }]) => ({
          id: `sheet-${kind}`,
          group: 'Bench',
          label: title,
          words: purpose,
          run: () => go(`/station/${stationId}/bench?sheet=${kind}`),
        })),
        ...cableClasses.map(({ id, name, jacketMarkings }) => {
          const size = tradeSizeOf(id)
          return {
            id: `cable-${id}`,
            group: 'Cables',
            label: name,
            hint: [...jacketMarkings.slice(0, 1), ...(size ? [`${size} inch`] : [])].join(', '),
            words: jacketMarkings
              .flatMap((mark) => [mark, mark.replace('-', ' '), mark.replace('-', '')])
              .join(' '),
            run: () => go(`/station/${stationId}/gear?cable=${id}`),
          }
        }),
      ]),
  ...exercises.map(({ id, title, goal }) => ({
    id: `drill-${id}`,
    group: 'Drills',
    label: title,
    words: goal,
    run: () => go(`/drills/${id}/${newSeed()}`),
  })),
]
