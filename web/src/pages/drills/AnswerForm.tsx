import {
  type DrillAnswer,
  fieldText,
  type FindDrill,
  type Finding,
  findingsOn,
} from '@saltline/core'
import { useState } from 'react'
import { findingNames, partNames } from '../../model/drillWords.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { NumberInput } from '../../ui/NumberInput.tsx'

/** Findings that come with so many decibels. */
const SIZED: readonly Finding[] = ['reduced', 'wet', 'connector', 'swapped', 'water', 'scale']

/** What is wrong, where, and by about how much. */
export function AnswerForm({
  drill,
  onSubmit,
}: {
  drill: FindDrill
  onSubmit: (answer: DrillAnswer) => void
}) {
  const [finding, setFinding] = useState<Finding | ''>('')
  const [part, setPart] = useState<string>('')
  const [db, setDb] = useState<number | null>(null)
  const parts = finding === '' ? [] : partNames(drill, finding)
  const chosen = parts.length === 0 ? null : part === '' ? undefined : Number(part)
  return (
    <form
      className="space-y-2"
      aria-label="Answer"
      onSubmit={(event) => {
        event.preventDefault()
        if (finding === '' || chosen === undefined) return
        onSubmit({
          finding,
          part: chosen,
          ...(SIZED.includes(finding) && db !== null && { db }),
        })
      }}
    >
      <h2 className="font-bold">What is wrong?</h2>
      <ChoiceField<Finding | ''>
        label="Fault"
        value={finding}
        options={[
          { value: '', label: 'choose' },
          ...findingsOn(drill.level).map((value) => ({ value, label: findingNames[value] })),
        ]}
        onChange={(value) => {
          setFinding(value)
          setPart('')
        }}
      />
      {parts.length > 0 && (
        <ChoiceField
          label="Where"
          value={part}
          options={[
            { value: '', label: 'choose' },
            ...parts.map(({ value, label }) => ({ value: String(value), label })),
          ]}
          onChange={setPart}
        />
      )}
      {finding !== '' && SIZED.includes(finding) && (
        <NumberInput
          label="About how much, on the first channel"
          value={db}
          onChange={setDb}
          optional
          dimension="decibel"
          unit="dB"
          show={fieldText}
          min={0}
          max={40}
          step={0.1}
        />
      )}
      <button
        type="submit"
        className="button button-main w-full"
        disabled={finding === '' || chosen === undefined}
      >
        Submit
      </button>
    </form>
  )
}
