import { Fold } from '../../ui/Fold.tsx'
import type { StageDocument } from '@saltline/contract'
import { ratingsOf } from '@saltline/core'
import { MaybeField, PlainField, PowerField, span } from '../../ui/quantities.tsx'

type Limits = NonNullable<StageDocument['limits']>

/** What the operator knows a part to bear; it goes before the typical figures of its class. */
export function OwnLimits({
  stage,
  change,
}: {
  stage: StageDocument
  change: (part: Pick<StageDocument, 'limits'>) => void
}) {
  const { limits = {} } = stage
  const known = ratingsOf({ ...stage, limits: undefined })
  const set = (part: Partial<Limits>) => {
    const next = { ...limits, ...part }
    const empty = Object.values(next).every((value) => value === undefined)
    change({ limits: empty ? undefined : next })
  }
  return (
    <Fold
      summary={<>Its ratings{Object.keys(limits).length > 0 ? ': your own' : ''}</>}
      startsOpen={Object.keys(limits).length > 0}
    >
      <div className="mt-2 space-y-2">
        <MaybeField
          label="Rated voltage"
          value={limits.voltageRms}
          usual={known.voltageRms ?? 500}
          onChange={(voltageRms) => set({ voltageRms })}
        >
          {(volts) => (
            <PlainField
              label="RMS"
              unit="V"
              value={volts}
              step={50}
              {...span('ratedVoltageRms')}
              onChange={(voltageRms) => set({ voltageRms })}
            />
          )}
        </MaybeField>
        {stage.kind === 'pad' && stage.part === 'arrester' && (
          <MaybeField
            label="Firing voltage"
            value={limits.firingVoltageDc}
            usual={known.firingVoltageDc ?? 230}
            onChange={(firingVoltageDc) => set({ firingVoltageDc })}
          >
            {(volts) => (
              <PlainField
                label="DC"
                unit="V"
                value={volts}
                step={10}
                {...span('firingVoltageDc')}
                onChange={(firingVoltageDc) => set({ firingVoltageDc })}
              />
            )}
          </MaybeField>
        )}
        <MaybeField
          label="Average power"
          value={limits.averageW}
          usual={100}
          onChange={(averageW) => set({ averageW })}
        >
          {(watts) => (
            <PowerField
              label={stage.kind === 'line' ? 'on this frequency, 40 °C' : 'into a match'}
              value={watts}
              onChange={(averageW) => set({ averageW })}
            />
          )}
        </MaybeField>
        <MaybeField
          label="Thermal time constant"
          value={limits.timeConstantS}
          usual={300}
          onChange={(timeConstantS) => set({ timeConstantS })}
        >
          {(seconds) => (
            <PlainField
              label="until it has warmed by 63 %"
              unit="s"
              value={seconds}
              step={10}
              {...span('timeConstantS')}
              onChange={(timeConstantS) => set({ timeConstantS })}
            />
          )}
        </MaybeField>
      </div>
    </Fold>
  )
}
