/** What is learned at the end: the best reading at every point of the way, and how sure one could have been. */
import type { MeterReading } from '../diagnosis/evidence.ts'
import { type Answer, type FindDrill, judge } from './findDrill.ts'
import type { Exactness } from '../diagnosis/nextReading.ts'
import type { Fault, Finding } from './faults.ts'
import { bestNext, findingsOf, learn, siteOf } from './learner.ts'

/** One point of the way: what the readings so far came to, and what should have been read next. */
export interface Waypoint {
  /** The most probable finding by then, and how probable. */
  leader: Answer
  probability: number
  /** Where the reading that settles most is taken; null where none does. */
  best: { point: number; plane: number; instrument: number } | null
  /** What was read instead; nothing at the last point. */
  taken: MeterReading | null
}

/** A debrief calls one reading the best, alone: it is ranked by more outcomes than advice is, and not by what may come after it. */
export const DEBRIEF: Exactness = { rough: 32, fine: 384, ranked: 12, paired: 0, lessPower: false }

/** Goes through the readings of a drill one after the other, the record first. */
export function waypoints(drill: FindDrill, readings: readonly MeterReading[]): Waypoint[] {
  return Array.from({ length: readings.length + 1 }, (_, count) => {
    const until = [...drill.record, ...readings.slice(0, count)]
    const { weighed, next } = bestNext(drill, until, DEBRIEF)
    const [first] = findingsOf(weighed.diagnosis.explanations, drill)
    return {
      leader: first!.answer,
      probability: first!.probability,
      best: next && siteOf(next),
      taken: readings[count] ?? null,
    }
  })
}

/** How many readings and looks the best strategy took on this very drill; null where it did not find it. */
export function strategyNeeds(drill: FindDrill): number | null {
  const { readings, looks, right } = learn(drill)
  return right ? readings.length + looks : null
}

/** What a fault teaches, in three sentences; the run sheet that would have caught it, and the term that it is about. */
export interface Lesson {
  text: string
  sheet: string
  term: string
}

export const lessons: Readonly<Record<Finding, Lesson>> = {
  reduced: {
    text: 'Power was missing at the radio already, by the same share on every channel. So nothing behind the radio can be the cause. Look at the radio’s menu first: it costs no key-down time.',
    sheet: 'before-keying',
    term: 'PEP',
  },
  antenna: {
    text: 'Reflected power was high at the antenna, and grew less toward the radio as the cable took it. A cable or a tuner hides a bad antenna from the radio. Only a reading at the antenna’s side shows it.',
    sheet: 'yearly',
    term: 'Foldback',
  },
  wet: {
    text: 'The loss sat between the two ends of one long cable and nowhere else. Water and age multiply the loss of a cable, so it is worse on higher frequencies. Both ends read on one meter cancel that meter’s error.',
    sheet: 'cable-acceptance',
    term: 'Conductor loss, dielectric loss',
  },
  connector: {
    text: 'The watts went at one short piece that should take next to nothing. A joint loses the same on all frequencies, a cable does not. Halve the distance with every reading, and it is found soon.',
    sheet: 'after-storm',
    term: 'Insertion loss',
  },
  swapped: {
    text: 'The cable lost more than what is written down for it, as an aged one does. Its jacket told that it is another cable. A look costs nothing, and comes before any judgement of age.',
    sheet: 'cable-acceptance',
    term: 'Matched loss',
  },
  kinked: {
    text: 'The cable was squeezed at one place: the impedance steps there, and on some frequencies that costs next to nothing. No meter tells where a reflection comes from. A sweep does, to the metre, as long as its span is wide.',
    sheet: 'cable-acceptance',
    term: 'Resolution of a sweep',
  },
  water: {
    text: 'One place of the cable took what a whole aged cable would take. Readings at both ends cannot tell the two apart. A sweep shows the place, and a cable that is wet at one place can be cut there.',
    sheet: 'after-storm',
    term: 'Distance to fault',
  },
  gap: {
    text: 'The pins of one joint did not touch, and what passed went through the gap between them. Such a joint may look sound on one band and send all back on another. A sweep shows the joint by its distance; open it with the transmitter off.',
    sheet: 'after-storm',
    term: 'Distance to fault',
  },
  scale: {
    text: 'One meter was off by the same factor everywhere, and the other was not. A factor that is a ratio of two ranges is a scale read wrong. Two meters in one line find it in one reading.',
    sheet: 'before-keying',
    term: 'Forward power, reflected power, net power',
  },
  averaging: {
    text: 'On voice the meter showed less than half, on a steady carrier all of it. A meter that averages shows a quarter to a half of PEP on speech. Compare readings on a steady carrier only.',
    sheet: 'into-dummy-load',
    term: 'Average power',
  },
  common: {
    text: 'The reflected reading was another one every time, though nothing was changed. Current on the outside of the braid does that. A choke at the antenna makes it stand still.',
    sheet: 'yearly',
    term: 'Common-mode current',
  },
  misread: {
    text: 'Nothing was wrong but one figure in the record. Read again before anything is taken apart. What cannot be repeated is not a measurement.',
    sheet: 'before-keying',
    term: 'Measurement session',
  },
  none: {
    text: 'All readings were within what chain and meters allow. A figure below the expected one is no fault as long as it is inside the range. Knowing when to stop looking is part of the trade.',
    sheet: 'yearly',
    term: 'Headroom',
  },
}

/** Whether a look at a cable shows that it is another one: what is printed on its jacket, null for other parts. */
export function jacketOf(drill: FindDrill, stage: number, left: readonly Fault[]): string | null {
  const swapped = left.find(({ cause }) => cause.kind === 'swapped' && cause.stage === stage)
  if (swapped && swapped.cause.kind === 'swapped')
    return (swapped.cause.cable as { name?: string }).name ?? null
  return drill.station.jackets[stage] ?? null
}

/** What the radio's menu shows: whether it was left in its reduced-power setting. */
export const menuShowsReduced = (left: readonly Fault[]): boolean =>
  left.some(({ kind }) => kind === 'reduced')

/** A hint: whether the trouble sits at the radio, on the way, at the antenna or in the readings. */
export function hintOf(drill: FindDrill, left: readonly Fault[]): string {
  const { finding } = judge(drill, { finding: 'none', part: null }, left).fault
  const where: Record<Finding, string> = {
    reduced: 'Look at what leaves the radio.',
    antenna: 'Look at what comes back from the antenna.',
    wet: 'Look between the two ends of a cable.',
    connector: 'Look at a short piece: read before and behind it.',
    swapped: 'Look between the two ends of a cable, and at its jacket.',
    kinked: 'Look along the cable with the analyser.',
    water: 'Look along the cable with the analyser: is the loss everywhere, or at one place?',
    gap: 'Look along the line with the analyser: a joint reflects.',
    scale: 'Look at the meters: do both agree?',
    averaging: 'Look at the meters, on voice and on a steady carrier.',
    common: 'Read the reflected power twice at one place.',
    misread: 'Take a reading of the record again.',
    none: 'Ask whether anything is outside its range at all.',
  }
  return where[finding]
}
