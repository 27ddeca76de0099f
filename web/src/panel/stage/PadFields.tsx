import { padFigures } from '@saltline/contract'
import { formatDb, formatFrequency, padLossDb, padPasses, partClasses } from '@saltline/core'
import { copyOfPart } from '../../model/stages/pad.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { FigureFields } from '../../ui/quantities.tsx'
import { MeterReading } from '../activeStages.tsx'
import type { StageFields } from './stageFields.ts'

/** A matched part: of a class in the catalogue, or with a loss of its own. */
export function PadFields(props: StageFields<'pad'>) {
  const { stage, change, hz } = props
  const choices = partClasses.filter(({ part }) => part === stage.part)
  const known = choices.find(({ id }) => id === stage.gearId)
  const here = padPasses(stage, hz)
    ? `${formatDb(padLossDb(stage, hz))} at ${formatFrequency(hz)}`
    : `✕ It blocks ${formatFrequency(hz)}`
  return (
    <>
      <ChoiceField
        label="Class of part"
        value={stage.points ? (known?.id ?? 'table') : 'own'}
        options={[
          { value: 'own', label: 'a loss of its own' },
          ...(stage.points && !known ? [{ value: 'table', label: 'a table of its own' }] : []),
          ...choices.map(({ id, name }) => ({ value: id, label: name })),
        ]}
        onChange={(id) => {
          const found = choices.find((entry) => entry.id === id)
          if (found) change(copyOfPart(found, hz))
          else
            change({
              points: undefined,
              gearId: undefined,
              passes: undefined,
              lossDb: tidy(padLossDb(stage, hz)),
            })
        }}
        {...(stage.points && { hint: `${here}. Typical of the class.` })}
      />
      {!stage.points && (
        <FigureFields
          figures={padFigures}
          values={stage}
          change={change}
          about={{
            atHz: {
              hint: stage.atHz === undefined ? 'empty: the same everywhere' : `as √f: ${here}`,
            },
          }}
        />
      )}
      {stage.part === 'meter' && <MeterReading {...props} />}
    </>
  )
}

const tidy = (db: number): number => Math.round(db * 1000) / 1000
