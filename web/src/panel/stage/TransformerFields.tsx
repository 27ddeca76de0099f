import { transformerFigures, transformerInnerFigures } from '@saltline/contract'
import { Fold } from '../../ui/Fold.tsx'
import { FigureFields } from '../../ui/quantities.tsx'
import type { StageFields } from './stageFields.ts'

/** A balun or unun: its ratio and loss, and what else is known of it. */
export function TransformerFields({ stage, change, hz }: StageFields<'transformer'>) {
  const known =
    stage.leakageOhm !== undefined ||
    stage.magnetisingOhm !== undefined ||
    stage.coreOhm !== undefined
  return (
    <>
      <FigureFields figures={transformerFigures} values={stage} change={change} />
      <p className="text-xs text-muted">
        The ratio is the antenna’s side over the transmitter’s: 4 makes 50 Ω of 200 Ω.
      </p>
      <Fold summary="Reactances and core" startsOpen={known}>
        <div className="mt-2">
          <FigureFields
            figures={transformerInnerFigures}
            values={stage}
            change={(part) => change(known ? part : { atHz: hz, ...part })}
          />
        </div>
        <p className="mt-2 text-xs text-muted">
          All on the transmitter’s side. The two reactances go with frequency, the core’s resistance
          does not.
        </p>
      </Fold>
    </>
  )
}
