import { type Exercise, fieldText } from '@saltline/core'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { NumberInput } from '../../ui/NumberInput.tsx'

type Answers = Readonly<Record<string, number>>

/** The figures that an exercise asks for; an empty one is none. */
export function Asks({
  asks,
  answers,
  onAnswer,
}: {
  asks: Exercise['asks']
  answers: Answers
  onAnswer: (answers: Answers) => void
}) {
  return asks.map(({ id, label, unit, choices }) => {
    const answer = (value: number | null) => {
      const { [id]: _, ...rest } = answers
      onAnswer(value === null ? rest : { ...rest, [id]: value })
    }
    return choices ? (
      <ChoiceField
        key={id}
        label={label}
        value={answers[id] === undefined ? '' : String(answers[id])}
        options={[
          { value: '', label: 'choose' },
          ...choices.map((text, i) => ({ value: String(i), label: text })),
        ]}
        onChange={(value) => answer(value === '' ? null : Number(value))}
      />
    ) : (
      <NumberInput
        key={id}
        label={label}
        value={answers[id] ?? null}
        onChange={answer}
        optional
        dimension="plain"
        unit={unit}
        show={fieldText}
        min={0}
        max={100_000}
      />
    )
  })
}
