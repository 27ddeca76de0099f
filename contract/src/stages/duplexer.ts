import { z } from 'zod'
import { stageBase } from './base.ts'
import { type Figure, shapeOf } from './figure.ts'

const frequency = <const K extends string>(key: K, noun: string, label: string) =>
  ({ key, noun, label, quantity: 'frequency', within: 'frequencyHz' }) as const satisfies Figure
const loss = <const K extends string>(key: K, noun: string) =>
  ({ key, noun, quantity: 'decibel', within: 'lossDb' }) as const satisfies Figure

export const duplexerFigures = [
  frequency('transmitLowHz', 'Lower edge of the transmitter’s branch', 'Transmits from'),
  frequency('transmitHighHz', 'Upper edge of the transmitter’s branch', 'to'),
  frequency('receiveLowHz', 'Lower edge of the receiver’s branch', 'Receives from'),
  frequency('receiveHighHz', 'Upper edge of the receiver’s branch', 'to'),
  loss('lossDb', 'Loss, transmitting'),
  loss('receiveLossDb', 'Loss, receiving'),
  {
    key: 'isolationDb',
    noun: 'Isolation of the branches',
    quantity: 'decibel',
    within: 'isolationDb',
    step: 1,
  },
] as const satisfies readonly Figure[]

export const duplexerStageSchema = z
  .object({ ...stageBase, kind: z.literal('duplexer'), ...shapeOf(duplexerFigures) })
  .refine((d) => d.transmitHighHz >= d.transmitLowHz, {
    path: ['transmitHighHz'],
    message: 'The transmitter’s branch ends before it begins.',
  })
  .refine((d) => d.receiveHighHz >= d.receiveLowHz, {
    path: ['receiveHighHz'],
    message: 'The receiver’s branch ends before it begins.',
  })
  .refine((d) => d.transmitLowHz > d.receiveHighHz || d.receiveLowHz > d.transmitHighHz, {
    path: ['receiveLowHz'],
    message: 'The two branches overlap: a duplexer keeps them apart.',
  })
  .meta({ id: 'DuplexerStage' })
