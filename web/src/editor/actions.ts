import { type ChannelDocument, newId, type StageDocument } from '@saltline/contract'
import type { ChainEditor } from './chainEditor.ts'
import * as edits from '../model/edits.ts'
import type { StageChoice } from '../model/stages/index.ts'
import { type Selection } from '../model/selection.ts'
import { followReadings } from '../model/swrRead.ts'
import { forgetWaysBack } from '../platform/wayBack.ts'
import { wantPanel } from './panelFocus.ts'

/** Everything that can be done to a chain from its page. */
export interface ChainActions {
  select: (selection: Selection) => void
  deselect: () => void
  move: (id: string, by: -1 | 1) => void
  moveTo: (id: string, index: number) => void
  remove: (id: string) => void
  duplicate: (id: string) => void
  toggleBypass: (id: string) => void
  /** Asks what to put in behind a stage. */
  insertAfter: (id: string) => void
  insertAt: (index: number, choice: StageChoice) => void
  /** Puts back what the server refused. */
  putBack: () => void
  edit: (edit: edits.Edit) => void
  /** Puts a stage in and selects it. */
  insert: (index: number, stage: StageDocument) => void
  changeStage: (id: string, change: (stage: StageDocument) => StageDocument) => void
  changeChannel: (id: string, change: Partial<ChannelDocument>) => void
  addChannel: (like: ChannelDocument) => void
  removeChannel: (id: string) => void
}

/** Binds the edits to a chain's editor and to what is selected. */
export function chainActions(
  editor: ChainEditor,
  show: (selection: Selection | null) => void,
  pickChannel: (id: string, selection?: Selection) => void,
): ChainActions {
  /** Of a plane there is nothing to type: the focus stays where it was picked. */
  const select = (selection: Selection) => {
    if (selection.kind !== 'plane') wantPanel(selection)
    show(selection)
  }
  const edit = (change: edits.Edit) => {
    forgetWaysBack()
    editor.edit((document) => followReadings(document, change(document)))
  }
  const stages = () => editor.getSnapshot().document.stages
  const indexOf = (id: string) => stages().findIndex((stage) => stage.id === id)
  const insert = (index: number, stage: StageDocument) => {
    edit(edits.insertStage(index, stage))
    select({ kind: 'stage', id: stage.id })
  }
  return {
    edit,
    select,
    deselect: () => show(null),
    putBack: () => editor.putBack(),
    move: (id, by) => edit(edits.moveStage(id, indexOf(id) + by)),
    moveTo: (id, index) => edit(edits.moveStage(id, index)),
    remove: (id) => {
      edit(edits.removeStage(id))
      show(null)
    },
    duplicate: (id) => {
      const copyId = newId()
      edit(edits.duplicateStage(id, copyId))
      select({ kind: 'stage', id: copyId })
    },
    toggleBypass: (id) => edit(edits.toggleBypass(id)),
    insertAfter: (id) => select({ kind: 'plane', index: indexOf(id) + 1 }),
    insert,
    insertAt: (index, choice) =>
      insert(index, edits.newStage(choice, editor.getSnapshot().document)),
    changeStage: (id, change) => edit(edits.changeStage(id, change)),
    changeChannel: (id, change) => edit(edits.changeChannel(id, change)),
    addChannel: ({ name: _, ...like }) => {
      const channel = { ...like, id: newId() }
      edit(edits.addChannel(channel))
      wantPanel({ kind: 'channel' })
      pickChannel(channel.id, { kind: 'channel' })
    },
    removeChannel: (id) => {
      edit(edits.removeChannel(id))
      const [first] = editor.getSnapshot().document.channels
      pickChannel(first!.id)
    },
  }
}
