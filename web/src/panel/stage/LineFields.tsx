import { Fold } from '../../ui/Fold.tsx'
import { cableFigures, dayText, lineFigures } from '@saltline/contract'
import { cableClasses, decimals, formatPercent } from '@saltline/core'
import { copyOfClass } from '../../model/stages/line.ts'
import { ownCables } from '../../model/ownCables.ts'
import { CableField } from '../CableField.tsx'
import { FigureField, FigureFields, PlainField } from '../../ui/quantities.tsx'
import { TextField } from '../../ui/TextField.tsx'
import type { StageFields } from './stageFields.ts'

const [length, temperature] = lineFigures

export function LineFields({ stage, change, hz, station }: StageFields<'line'>) {
  const { cable } = stage
  const own = ownCables(station)
  return (
    <>
      <FigureFields figures={[length]} values={stage} change={change} />
      <CableField
        value={cable.gearId ?? ''}
        own={own}
        fallback={cable}
        frequencyHz={hz}
        onChange={(id) => {
          const found = cableClasses.find((entry) => entry.id === id)
          const mine = own.find((entry) => entry.id === id)
          if (found) change({ cable: copyOfClass(found), lossKnown: undefined })
          else if (mine) change({ cable: { ...mine.document, gearId: id }, lossKnown: undefined })
        }}
      />
      <AgeingFields stage={stage} change={change} />
      {stage.lossKnown && (
        <p className="text-sm">
          Measured on {dayText(stage.lossKnown.on)}: its loss is known to ±{' '}
          {formatPercent(stage.lossKnown.share)}.{' '}
          <button
            type="button"
            className="link min-h-6"
            onClick={() => change({ lossKnown: undefined })}
          >
            as any cable of the chain
          </button>
        </p>
      )}
      <Fold summary="Cable figures">
        <div className="mt-2">
          <FigureFields
            figures={cableFigures}
            values={cable}
            change={(part) => change({ cable: { ...cable, ...part } })}
          />
        </div>
        <p className="mt-2 text-xs text-muted">
          Loss per 100 m is k₁·√f + k₂·f with f in MHz: both are dB per 100 m at 1 MHz.
        </p>
      </Fold>
    </>
  )
}

/** What time and weather have done to the section. */
function AgeingFields({ stage, change }: Pick<StageFields<'line'>, 'stage' | 'change'>) {
  const { ageing, temperatureC } = stage
  const set = (part: Partial<NonNullable<typeof ageing>>) => {
    const next = { factor: 1, reason: '', ...ageing, ...part }
    change({ ageing: next.factor === 1 && !next.reason && !next.date ? undefined : next })
  }
  return (
    <Fold
      summary={
        <>
          Age and temperature{ageing && `: ${decimals((ageing.factor - 1) * 100, 0)} % more loss`}
        </>
      }
      startsOpen={ageing !== undefined}
    >
      <div className="mt-2 grid grid-cols-2 gap-2">
        <PlainField
          label="Loss above new"
          unit="%"
          value={((ageing?.factor ?? 1) - 1) * 100}
          step={1}
          min={0}
          max={1900}
          onChange={(percent) => set({ factor: 1 + percent / 100 })}
        />
        <FigureField
          figure={temperature}
          value={temperatureC}
          onChange={(celsius) => change({ temperatureC: celsius })}
          hint="20 °C unless given"
        />
        <TextField
          label="Why"
          value={ageing?.reason ?? ''}
          optional
          onChange={(reason) => set({ reason })}
        />
        <div>
          <label htmlFor="ageing-date" className="mb-0.5 block text-xs text-muted">
            Known since
          </label>
          <input
            id="ageing-date"
            type="date"
            className="field"
            value={ageing?.date ?? ''}
            onChange={(event) => set({ date: event.target.value || undefined })}
          />
        </div>
      </div>
    </Fold>
  )
}
