/** Every class of the catalogue through what chooses between cables: the planner, an alternative, the comparison. */
import { cableClasses, plan } from '@saltline/core'
import { describe, expect, test } from 'vitest'
import { compareTask } from '../src/compute/tasks/compare.ts'
import { applyAlternative, changeText } from '../src/model/alternatives.ts'
import { chainOfDocument } from '../src/model/answers.ts'
import { cableChoices } from '../src/model/cableFacts.ts'
import { firstWanted, linesOf, planFor, plannedAlternative } from '../src/model/planning.ts'
import { copyOfClass } from '../src/model/stages/line.ts'
import { document as plain } from './fixtures.ts'

const station = {
  gear: [],
  prices: { perM: Object.fromEntries(cableClasses.map(({ id }) => [id, 2])), connectorPair: 5 },
} as unknown as Parameters<typeof cableChoices>[0]
/** Worse than any of them. */
const { gearId: _, ...thin } = copyOfClass(cableClasses[0]!)
const poor = { ...thin, name: 'Worn', k1DbPer100m: 3 * thin.k1DbPer100m }
const document = {
  ...plain,
  stages: plain.stages.map((stage) => (stage.kind === 'line' ? { ...stage, cable: poor } : stage)),
}
const chain = chainOfDocument(document, undefined)!
const channel = document.channels[0]!

describe('a cable class in the place of another', () => {
  test.each(cableChoices(station).map((choice) => [choice.id, choice] as const))(
    '%s',
    async (id, choice) => {
      const wanted = { ...firstWanted(linesOf(document)), sameImpedance: false }
      const asked = planFor(document, chain, station, wanted)
      const [section] = asked.request.sections
      const only = section!.candidates.filter((candidate) => candidate.id === id)
      expect(only).toHaveLength(1)
      const { front } = plan({
        ...asked.request,
        sections: [{ ...section!, candidates: only }],
      })
      const taken = front.find(({ cables }) => cables[0] === id)!
      const alternative = plannedAlternative(taken, asked, document)
      expect(alternative.name).toContain(choice.name)
      expect(changeText(alternative.changes[0]!, document, { length: 'm', power: 'W' })).toContain(
        choice.name,
      )
      const applied = applyAlternative(document, alternative)
      expect(applied.misfits).toEqual([])
      const { rows } = await compareTask(
        {
          candidates: [
            { document, chain },
            { document: applied.document, chain: chainOfDocument(applied.document, undefined)! },
          ],
          channelId: channel.id,
          tolerances: null,
        },
        () => undefined,
      )
      const cell = rows[1]![channel.id]!
      if (typeof cell === 'string') throw new Error(cell)
      expect(cell.antennaW).toBeCloseTo(taken.antennaW[0]!, 6)
    },
  )
})
