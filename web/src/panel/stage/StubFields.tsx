import { cableClasses, formatVolt, stubVoltageRise } from '@saltline/core'
import { ownCables } from '../../model/ownCables.ts'
import { copyOfClass } from '../../model/stages/line.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { LengthField } from '../../ui/quantities.tsx'
import { CableField } from '../CableField.tsx'
import type { StageFields } from './stageFields.ts'

/** A length of cable across the line. */
export function StubFields({ stage, change, hz, station, answer, index }: StageFields<'stub'>) {
  const own = ownCables(station)
  const volts = answer?.ok ? answer.solution.planes[index]!.voltageRms : null
  return (
    <>
      <div className="grid grid-cols-2 gap-2">
        <LengthField
          label="Length"
          value={stage.lengthM}
          min={stage.end === 'short' ? 0.001 : 0}
          onChange={(lengthM) => change({ lengthM })}
        />
        <ChoiceField
          label="Far end"
          value={stage.end}
          options={[
            { value: 'open', label: 'open' },
            { value: 'short', label: 'shorted' },
          ]}
          onChange={(end) =>
            change({ end, ...(end === 'short' && stage.lengthM === 0 && { lengthM: 0.001 }) })
          }
        />
      </div>
      <CableField
        value={stage.cable.gearId ?? ''}
        own={own}
        fallback={stage.cable}
        frequencyHz={hz}
        onChange={(id) => {
          const found = cableClasses.find((entry) => entry.id === id)
          const mine = own.find((entry) => entry.id === id)
          if (found) change({ cable: copyOfClass(found) })
          else if (mine) change({ cable: { ...mine.document, gearId: id } })
        }}
      />
      {volts !== null && (
        <p className="text-sm text-muted">
          Up to {formatVolt(volts * stubVoltageRise(stage, hz))} RMS in it
          {stage.end === 'open' && ': the open end burns who touches it, and arcs when wet'}.
        </p>
      )}
    </>
  )
}
