import { ownLimitsFigures, type StageDocument } from '@saltline/contract'
import { ratingsOf } from '@saltline/core'
import { Fold } from '../../ui/Fold.tsx'
import { FigureFields } from '../../ui/quantities.tsx'

type Limits = NonNullable<StageDocument['limits']>

const withoutFiring = ownLimitsFigures.filter(({ key }) => key !== 'firingVoltageDc')

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
  const fires = stage.kind === 'pad' && stage.part === 'arrester'
  const ofClass = (volts: number | undefined) =>
    volts === undefined ? {} : { hint: `its class: ${volts}\u00a0V` }
  const own = Object.keys(limits).length > 0
  return (
    <Fold summary={<>Its ratings{own ? ': your own' : ''}</>} startsOpen={own}>
      <div className="mt-2">
        <FigureFields
          figures={fires ? ownLimitsFigures : withoutFiring}
          values={limits}
          change={set}
          about={{
            voltageRms: ofClass(known.voltageRms),
            firingVoltageDc: ofClass(known.firingVoltageDc),
            timeConstantS: { hint: 'until it has warmed by 63 %' },
            averageW: { hint: stage.kind === 'line' ? 'on this frequency, 40 °C' : 'into a match' },
          }}
        />
        <p className="mt-2 text-xs text-muted">Left empty, the figures of its class count.</p>
      </div>
    </Fold>
  )
}
