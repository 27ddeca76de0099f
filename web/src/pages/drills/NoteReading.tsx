import { type ExpectedReading, type Face, formatPower } from '@saltline/core'
import { useId, useState } from 'react'
import { fieldText } from '@saltline/core'
import { NumberInput } from '../../ui/NumberInput.tsx'

/** The figure that was read off the scale, and a button to note it. */
export function NoteReading({
  way,
  possible,
  expected,
  face,
  onNote,
}: {
  way: string
  /** Reflected power belongs to a forward reading. */
  possible: boolean
  /** What a sound station would show, at full power, and the share of it that is set. */
  expected: { figures: ExpectedReading; share: number } | null
  face: Face
  onNote: (watts: number) => void
}) {
  const [watts, setWatts] = useState<number | null>(null)
  const id = useId()
  const back = way === 'reflected'
  const { full, divisions } = face
  return (
    <form
      aria-label="Note a reading"
      className="mt-3 flex flex-wrap items-end justify-center gap-3"
      onSubmit={(event) => {
        event.preventDefault()
        if (watts !== null && possible) onNote(watts)
      }}
    >
      <div className="w-36">
        <NumberInput
          label={back ? 'Reading, reflected' : 'Reading, forward'}
          value={watts}
          onChange={setWatts}
          optional
          dimension="power"
          unit="W"
          show={fieldText}
          min={0}
          max={1000}
        />
      </div>
      <button
        type="submit"
        className="button button-main"
        disabled={watts === null || !possible}
        aria-describedby={id}
      >
        Note it
      </button>
      <p id={id} className="basis-full text-center text-sm text-muted">
        {!possible
          ? 'Note the forward power here first.'
          : expected
            ? expectedText(expected, back)
            : `A division is ${fieldText(full / divisions)} W.`}
      </p>
    </form>
  )
}

function expectedText(
  { figures, share }: { figures: ExpectedReading; share: number },
  back: boolean,
): string {
  const w = (watts: number) => formatPower(watts * share)
  return back
    ? `A sound station shows ${w(figures.reflectedW)} here.`
    : `A sound station shows ${w(figures.watts)} here, ${w(figures.wattsRange.low)} to ${w(figures.wattsRange.high)}.`
}
