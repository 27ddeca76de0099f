/** The fields of every kind of stage. A new one is a file beside this one and a line here. */
import type { StageDocument } from '@saltline/contract'
import type { ComponentType } from 'react'
import { Amplifier, Tuner } from '../activeStages.tsx'
import { ImpedanceFields } from './ImpedanceFields.tsx'
import { LineFields } from './LineFields.tsx'
import { MeasuredFields } from './MeasuredFields.tsx'
import { PadFields } from './PadFields.tsx'
import type { StageFields } from './stageFields.ts'
import { StubFields } from './StubFields.tsx'
import { TransformerFields } from './TransformerFields.tsx'

const fields: { [K in StageDocument['kind']]: ComponentType<StageFields<K>> } = {
  line: LineFields,
  pad: PadFields,
  tuner: Tuner,
  transformer: TransformerFields,
  amplifier: Amplifier,
  series: ImpedanceFields,
  shunt: ImpedanceFields,
  stub: StubFields,
  measured: MeasuredFields,
}

type Kind = StageDocument['kind']

export const stageFields = fields as Record<Kind, ComponentType<StageFields<Kind>>>
