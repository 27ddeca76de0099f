import { type CableClass, cableClasses } from './cableClass.ts'

/** What can be seen of an unknown cable; leave out what is not known. */
export interface CableClues {
  outerMm?: number | undefined
  dielectric?: 'clear or milky, solid' | 'white, soft foam' | 'white, hard, slippery' | undefined
  shield?: CableClass['shield'] | undefined
  z0Ohm?: number | undefined
  /** Any part of what is printed on the jacket. */
  marking?: string | undefined
}

export interface CableCandidate {
  cable: CableClass
  /** 0 … 1: how well everything known fits. */
  fit: number
  /** What speaks for and against it, in words. */
  reasons: string[]
}

const looks: Record<NonNullable<CableClues['dielectric']>, readonly CableClass['dielectric'][]> = {
  'clear or milky, solid': ['solid PE'],
  'white, soft foam': ['foam PE', 'half-air PE'],
  'white, hard, slippery': ['PTFE'],
}

const squash = (text: string): string => text.toUpperCase().replace(/[^A-Z0-9]/g, '')

interface Verdict {
  score: number
  reason: string
}

/** A diameter measured with a rule or caliper is good to some tenths of a millimetre. */
function judgeDiameter(cable: CableClass, outerMm: number): Verdict {
  const off = Math.abs(cable.outerMm - outerMm)
  const score = Math.exp(-((off / (0.25 + 0.04 * outerMm)) ** 2))
  const word = score > 0.8 ? 'fits' : score > 0.3 ? 'is a little off' : 'does not fit'
  return { score, reason: `its ${cable.outerMm} mm ${word}` }
}

function judgeMarking(cable: CableClass, marking: string): Verdict {
  const wanted = squash(marking)
  const hit = cable.jacketMarkings.find(
    (m) => squash(m).includes(wanted) || wanted.includes(squash(m)),
  )
  return hit
    ? { score: 1, reason: `marked ${hit}` }
    : { score: 0.1, reason: `not known to be marked “${marking.trim()}”` }
}

const yesNo = (yes: boolean, no: number, what: string): Verdict => ({
  score: yes ? 1 : no,
  reason: yes ? `${what} as seen` : `but ${what}`,
})

/**
 * Catalogue classes ranked by how well the clues fit; those that clearly do not are left out.
 *
 * @example identifyCable({ outerMm: 10.3, marking: '213' })[0].cable.id // 'pe-10'
 */
export function identifyCable(clues: CableClues): CableCandidate[] {
  return cableClasses
    .map((cable): CableCandidate => {
      const verdicts: Verdict[] = []
      if (clues.marking && squash(clues.marking).length >= 2)
        verdicts.push(judgeMarking(cable, clues.marking))
      if (clues.outerMm !== undefined) verdicts.push(judgeDiameter(cable, clues.outerMm))
      if (clues.dielectric)
        verdicts.push(
          yesNo(looks[clues.dielectric].includes(cable.dielectric), 0.08, cable.dielectric),
        )
      if (clues.shield) verdicts.push(yesNo(clues.shield === cable.shield, 0.3, cable.shield))
      if (clues.z0Ohm !== undefined)
        verdicts.push(yesNo(Math.abs(clues.z0Ohm - cable.z0Ohm) < 10, 0.1, `${cable.z0Ohm} Ω`))
      return {
        cable,
        fit: verdicts.length === 0 ? 0 : verdicts.reduce((product, v) => product * v.score, 1),
        reasons: verdicts.map((v) => v.reason),
      }
    })
    .filter(({ fit }) => fit > 0.02)
    .sort((a, b) => b.fit - a.fit)
}
