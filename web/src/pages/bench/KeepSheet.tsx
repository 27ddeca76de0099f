import type { Station } from '@saltline/contract'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { toast } from 'sonner'
import { chainsOf } from '../../model/things.ts'
import { addGear } from '../../platform/api/queries.ts'
import { keepMeasurement } from '../../platform/api/logQueries.ts'
import { thingsQuery } from '../../platform/api/thingQueries.ts'
import { errorText } from '../../platform/errorText.ts'
import { Problem } from '../../ui/Problem.tsx'
import type { AnyWorksheet } from '../../worksheets/sheets/index.ts'
import type { SheetResult, Subject } from '../../worksheets/worksheet.ts'
import { keepCalibration, makeOwnCable, takeAsLoss, takeAsVelocityFactor } from './subjects.ts'

/** What can be done with a result: saved, put into the chain, made a cable of the station's own. */
export function KeepSheet({
  sheet,
  station,
  subject,
  inputs,
  result,
}: {
  sheet: AnyWorksheet
  station: Station
  subject: Subject | null
  inputs: Record<string, unknown>
  result: SheetResult
}) {
  const [problem, setProblem] = useState<string | null>(null)
  const doIt = async (run: () => Promise<string>) => {
    try {
      toast(await run())
      setProblem(null)
    } catch (error) {
      setProblem(errorText(error))
    }
  }
  const { loss, velocityFactor } = result
  const lengthM = (inputs['lengthM'] as number | null | undefined) ?? subject?.lengthM
  return (
    <div>
      <div className="flex flex-wrap gap-2">
        <button
          type="button"
          className="button button-main"
          onClick={() =>
            void doIt(async () => {
              await keepMeasurement(station.id, {
                kind: sheet.kind,
                title: subject ? `${subject.group}: ${subject.name}`.slice(0, 80) : sheet.title,
                ...subject?.place,
                inputs,
                result: result.lead,
              })
              return 'The sheet is saved'
            })
          }
        >
          Save
        </button>
        {subject?.place && loss && (subject.kind === 'pad' || lengthM) && (
          <button
            type="button"
            className="button"
            onClick={() => void doIt(() => takeAsLoss(subject, lengthM ?? 0, result))}
          >
            Use as this section’s loss
          </button>
        )}
        {subject?.place && subject.kind === 'line' && velocityFactor !== undefined && (
          <button
            type="button"
            className="button"
            onClick={() => void doIt(() => takeAsVelocityFactor(subject, velocityFactor))}
          >
            Use as this section’s velocity factor
          </button>
        )}
        {(!subject || subject.kind === 'line') && loss && loss.length > 1 && lengthM && (
          <button
            type="button"
            className="button"
            onClick={() =>
              void doIt(async () => {
                const { name } = await makeOwnCable(station, subject, lengthM, loss)
                return `“${name}” is among the station’s cables now`
              })
            }
          >
            Make this a custom cable
          </button>
        )}
        {result.calibration && (
          <button
            type="button"
            className="button"
            onClick={() => void doIt(() => keepCalibration(station, result.calibration!))}
          >
            Keep with {result.calibration.name}
          </button>
        )}
        {result.cables?.map(({ name, cable }) => (
          <button
            key={name}
            type="button"
            className="button"
            onClick={() =>
              void doIt(async () => {
                await addGear(station.id, { kind: 'cable', document: cable })
                return `“${name}” is among the station’s cables now`
              })
            }
          >
            “{name}” as a custom cable
          </button>
        ))}
      </div>
      <Problem text={problem} />
      <AlsoElsewhere station={station} subject={subject} />
    </div>
  )
}

/** A piece that is a thing may stand in other chains too. */
function AlsoElsewhere({ station, subject }: { station: Station; subject: Subject | null }) {
  const { data: things = [] } = useQuery(thingsQuery(station.id))
  const place = subject?.place
  const thing = things.find(({ places }) =>
    places.some((own) => own.chainId === place?.chainId && own.stageId === place.stageId),
  )
  const others = thing?.places.filter(({ chainId }) => chainId !== place?.chainId) ?? []
  if (!thing || others.length === 0) return null
  return (
    <p className="mt-2 text-sm">
      It is {thing.mark}, which is also in {chainsOf({ places: others })}. What is used here changes
      this chain;{' '}
      <Link className="link" to={`/station/${station.id}/thing/${thing.id}`}>
        its page
      </Link>{' '}
      says what follows in the others, and gives it to all of them.
    </p>
  )
}
