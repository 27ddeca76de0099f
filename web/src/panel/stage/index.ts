/** The fields of every kind of stage: its figures, or a component of its own where there is more to choose. */
import type { StageDocument } from '@saltline/contract'
import type { ComponentType } from 'react'
import { Amplifier, Tuner } from '../activeStages.tsx'
import { OwnFigures } from './OwnFigures.tsx'
import { ImpedanceFields } from './ImpedanceFields.tsx'
import { LineFields } from './LineFields.tsx'
import { MeasuredFields } from './MeasuredFields.tsx'
import { PadFields } from './PadFields.tsx'
import type { StageFields } from './stageFields.ts'
import { StubFields } from './StubFields.tsx'
import { TransformerFields } from './TransformerFields.tsx'

type Kind = StageDocument['kind']

const fields: { [K in Kind]: ComponentType<StageFields<K>> } = {
  line: LineFields,
  pad: PadFields,
  tuner: Tuner,
  transformer: TransformerFields,
  amplifier: Amplifier,
  series: ImpedanceFields,
  shunt: ImpedanceFields,
  stub: StubFields,
  measured: MeasuredFields,
  isolator: OwnFigures,
  duplexer: OwnFigures,
}

export const stageFields = fields as Record<Kind, ComponentType<StageFields<Kind>>>
