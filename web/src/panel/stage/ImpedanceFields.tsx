import { impedanceFigures } from '@saltline/contract'
import { FigureFields } from '../../ui/quantities.tsx'
import type { StageFields } from './stageFields.ts'

type Part = StageFields<'series' | 'shunt'>['stage']

interface Props {
  stage: Part
  change: (part: Partial<Pick<Part, 'rOhm' | 'xOhm' | 'atHz'>>) => void
}

/** A coil, capacitor or resistor, in line or across it. */
export function ImpedanceFields({ stage, change }: Props) {
  const part = stage.xOhm >= 0 ? 'coil' : 'capacitor'
  /** Neither figure of a shunt may be 0 where the other one is. */
  const short = (other: number) => (ohm: number) =>
    stage.kind === 'shunt' && ohm === 0 && other === 0
      ? 'A shunt of 0 Ω is a short circuit: give it some resistance or reactance.'
      : null
  return (
    <FigureFields
      figures={impedanceFigures}
      values={stage}
      change={change}
      about={{
        rOhm: { refuse: short(stage.xOhm) },
        xOhm: { refuse: short(stage.rOhm) },
        atHz: {
          hint: stage.atHz === undefined ? 'empty: X the same everywhere' : `behaves as a ${part}`,
        },
      }}
    />
  )
}
