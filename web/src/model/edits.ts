/** Edits of a chain document: plain functions from one document to the next. */
import {
  type ChainDocument,
  type ChannelDocument,
  newId,
  type StageDocument,
} from '@saltline/contract'
import { type StageChoice, stageChoices } from './stages/index.ts'

export type Edit = (document: ChainDocument) => ChainDocument

const withStages = (document: ChainDocument, stages: StageDocument[]): ChainDocument => ({
  ...document,
  stages,
})

export const changeStage =
  (id: string, change: (stage: StageDocument) => StageDocument): Edit =>
  (document) =>
    withStages(
      document,
      document.stages.map((stage) => (stage.id === id ? change(stage) : stage)),
    )

export const insertStage =
  (index: number, stage: StageDocument): Edit =>
  (document) =>
    withStages(document, document.stages.toSpliced(index, 0, stage))

export const removeStage =
  (id: string): Edit =>
  (document) =>
    withStages(
      document,
      document.stages.filter((stage) => stage.id !== id),
    )

/** Moves a stage to another place, counted without it; places past an end mean the end. */
export const moveStage =
  (id: string, to: number): Edit =>
  (document) => {
    const stage = document.stages.find((s) => s.id === id)
    if (!stage) return document
    const rest = document.stages.filter((s) => s.id !== id)
    return withStages(document, rest.toSpliced(Math.max(0, to), 0, stage))
  }

export const toggleBypass = (id: string): Edit =>
  changeStage(id, ({ bypassed, ...stage }) => (bypassed ? stage : { ...stage, bypassed: true }))

/** A copy right behind the stage it was taken from. */
export const duplicateStage =
  (id: string, copyId: string): Edit =>
  (document) => {
    const index = document.stages.findIndex((stage) => stage.id === id)
    const stage = document.stages[index]
    if (!stage) return document
    const name = freeName(document, stage.name)
    // One thing does not stand twice.
    const { thingId: _, ...copy } = stage
    return insertStage(index + 1, { ...copy, id: copyId, name })(document)
  }

function freeName(document: ChainDocument, name: string): string {
  const taken = new Set(document.stages.map((stage) => stage.name))
  const stem = name.replace(/ \d+$/, '')
  for (let n = 2; ; n++) if (!taken.has(`${stem} ${n}`)) return `${stem} ${n}`
}

/** A new stage with figures that are typical of its kind, and a name that no other has. */
export function newStage(choice: StageChoice, document: ChainDocument): StageDocument {
  const { label, make } = stageChoices.find((entry) => entry.choice === choice)!
  const taken = document.stages.some((stage) => stage.name === label)
  const name = taken ? freeName(document, label) : label
  return { ...make(document.channels[0]!.frequencyHz), id: newId(), name }
}

export const changeChannel =
  (id: string, change: Partial<ChannelDocument>): Edit =>
  (document) => ({
    ...document,
    channels: document.channels.map((channel) =>
      channel.id === id ? { ...channel, ...change } : channel,
    ),
  })

export const addChannel =
  (channel: ChannelDocument): Edit =>
  (document) => ({ ...document, channels: [...document.channels, channel] })

export const removeChannel =
  (id: string): Edit =>
  (document) => ({ ...document, channels: document.channels.filter((c) => c.id !== id) })
