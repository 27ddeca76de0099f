/**
 * A simulated bench under somebody's hands: controls, needles that take their time, a key, and what goes wrong. Time is
 * handed in with every action, so that a seed and a list of actions give the same play everywhere.
 */

export type Settings = Readonly<Record<string, number | string>>

/** Something to set. */
export type Control = {
  id: string
  label: string
  /** Must not be touched while the transmitter is keyed. */
  cold?: boolean
} & (
  | { kind: 'knob'; least: number; most: number; step: number; unit?: string }
  | { kind: 'choice'; options: readonly { value: number | string; label: string }[] }
)

/** A scale with a needle. */
export interface Face {
  id: string
  label: string
  unit: string
  full: number
  /** Marks from 0 to full scale. */
  divisions: number
}

/** A curve on the screen of an instrument. */
export interface Trace {
  /** What it shows, for who cannot see it. */
  description: string
  /** Rising, in `xUnit`. */
  x: ArrayLike<number>
  xUnit: string
  y: ArrayLike<number>
  yUnit: string
  /** Where the screen begins and ends, in `yUnit`. */
  low: number
  high: number
  /** What the instrument says beside it. */
  remark: string
}

/** What can go wrong on a bench. */
export type TroubleKind =
  | 'no load'
  | 'moved under power'
  | 'off scale'
  | 'arc'
  | 'over limit'
  | 'tuned too hot'
  | 'too hot'

export interface Sensed {
  /** Where each needle goes, in its own unit; those that are left out fall to 0. */
  needles: Readonly<Record<string, number>>
  troubles: readonly TroubleKind[]
  /** Power into the dummy load, W. */
  heatW?: number
}

/** How a dummy load warms: to `kPerW` above the air, with a time constant. */
export interface HeatModel {
  kPerW: number
  timeConstantS: number
  mostC: number
}

/** Temperature of the air on the bench, °C. */
export const AMBIENT_C = 20
/** Time constant of a needle, s. */
const NEEDLE_S = 0.3

export interface Simulation {
  start: Settings
  controls: (settings: Settings) => readonly Control[]
  faces: (settings: Settings) => readonly Face[]
  /** Whether there is a key at all: an analyser always reads. */
  keyed: boolean
  /**
   * What the bench does as it is set.
   *
   * @param count how often it was keyed or changed: chance depends on it
   * @param memory what went before, as `advance` keeps it
   */
  sense: (settings: Settings, count: number, memory: Settings) => Sensed
  /**
   * What stands on the screen of an instrument.
   *
   * @param count how often something was changed: chance depends on it
   */
  trace?: (settings: Settings, count: number) => Trace
  /** What time does to a bench beyond its needles; must not depend on how time is cut up. */
  advance?: (memory: Settings, settings: Settings, seconds: number) => Settings
  heat?: HeatModel
}

export interface Trouble {
  kind: TroubleKind
  at: number
}

interface Needle {
  from: number
  at: number
  toward: number
}

export interface Play {
  settings: Settings
  memory: Settings
  /** Seconds since the begin. */
  at: number
  keyedAt: number | null
  /** Of overs that have ended, s. */
  keyDownS: number
  /** The longest over that has ended, s. */
  longestS: number
  needles: Readonly<Record<string, Needle>>
  heat: { c: number; at: number; w: number }
  troubles: readonly Trouble[]
  /** Troubles that last at this moment: each is noted once, when it begins. */
  lasting: readonly TroubleKind[]
  count: number
}

/** What one does at the bench; `at` are seconds since the begin. */
export type Action = { at: number } & (
  | { do: 'set'; control: string; value: number | string }
  | { do: 'key'; down: boolean }
  | { do: 'wait' }
)

/** A bench as it stands before anybody has touched it. */
export const begin = (simulation: Simulation): Play =>
  settle(simulation, {
    settings: simulation.start,
    memory: {},
    at: 0,
    keyedAt: null,
    keyDownS: 0,
    longestS: 0,
    needles: {},
    heat: { c: AMBIENT_C, at: 0, w: 0 },
    troubles: [],
    lasting: [],
    count: 0,
  })

/** One action on a bench. Time never runs backward: what is earlier than the play counts as now. */
export function act(simulation: Simulation, before: Play, action: Action): Play {
  const play = pass(simulation, before, Math.max(before.at, action.at))
  switch (action.do) {
    case 'wait':
      return settle(simulation, play)
    case 'key': {
      if (!simulation.keyed || action.down === (play.keyedAt !== null)) return play
      if (action.down)
        return settle(simulation, { ...play, keyedAt: play.at, count: play.count + 1 })
      const over = play.at - play.keyedAt!
      return settle(simulation, {
        ...play,
        keyedAt: null,
        keyDownS: play.keyDownS + over,
        longestS: Math.max(play.longestS, over),
      })
    }
    case 'set': {
      const control = simulation.controls(play.settings).find(({ id }) => id === action.control)
      if (!control) return play
      const value = settable(control, action.value)
      if (value === null || value === play.settings[control.id]) return play
      const hot = control.cold && play.keyedAt !== null
      return settle(simulation, {
        ...play,
        settings: { ...play.settings, [control.id]: value },
        troubles: hot
          ? [...play.troubles, { kind: 'moved under power', at: play.at }]
          : play.troubles,
        count: play.count + 1,
      })
    }
  }
}

/** A value as a control can take it; null where it cannot. */
function settable(control: Control, value: number | string): number | string | null {
  if (control.kind === 'choice')
    return control.options.find((option) => option.value === value)?.value ?? null
  if (typeof value !== 'number' || !Number.isFinite(value)) return null
  const steps = Math.round((value - control.least) / control.step)
  const stepped = Number((control.least + steps * control.step).toPrecision(10))
  return Math.min(control.most, Math.max(control.least, stepped))
}

/** Lets time pass: memory, and the heat of the dummy load. */
function pass(simulation: Simulation, play: Play, at: number): Play {
  const seconds = at - play.at
  if (seconds <= 0) return play
  const memory = simulation.advance
    ? simulation.advance(play.memory, keyedSettings(play), seconds)
    : play.memory
  return { ...play, memory, at }
}

/** The settings, with whether it is keyed among them. */
const keyedSettings = (play: Play): Settings => ({
  ...play.settings,
  keyed: play.keyedAt === null ? 'no' : 'yes',
})

/** Sends the needles where they belong now, and notes what goes wrong. */
function settle(simulation: Simulation, play: Play): Play {
  const on = !simulation.keyed || play.keyedAt !== null
  const sensed: Sensed = on
    ? simulation.sense(play.settings, play.count, play.memory)
    : { needles: {}, troubles: [] }
  const faces = simulation.faces(play.settings)
  const needles = Object.fromEntries(
    faces.map(({ id, full }) => {
      const wanted = sensed.needles[id] ?? 0
      return [
        id,
        {
          from: needleAt(play, id, play.at),
          at: play.at,
          toward: Math.min(wanted, full * PINNED),
        },
      ]
    }),
  )
  const heat = { c: heatAt(simulation, play, play.at), at: play.at, w: sensed.heatW ?? 0 }
  const pinned = faces.some(({ id, full }) => (sensed.needles[id] ?? 0) > full * PINNED)
  const lasting: TroubleKind[] = [
    ...sensed.troubles,
    ...(pinned ? (['off scale'] as const) : []),
    ...(simulation.heat && heat.c > simulation.heat.mostC ? (['too hot'] as const) : []),
  ]
  const fresh = lasting.filter((kind) => !play.lasting.includes(kind))
  return {
    ...play,
    needles,
    heat,
    lasting,
    troubles: [...play.troubles, ...fresh.map((kind) => ({ kind, at: play.at }))],
  }
}

/** A needle is stopped a little beyond full scale. */
const PINNED = 1.04

/** Where a needle stands at a time (s), in its own unit. */
export function needleAt({ needles }: Play, face: string, at: number): number {
  const needle = needles[face]
  if (!needle) return 0
  const gone = Math.exp(-Math.max(0, at - needle.at) / NEEDLE_S)
  return needle.toward + (needle.from - needle.toward) * gone
}

/** Temperature of the dummy load at a time (s), °C. */
export function heatAt(
  { heat: model }: Pick<Simulation, 'heat'>,
  { heat }: Play,
  at: number,
): number {
  if (!model) return heat.c
  const end = AMBIENT_C + heat.w * model.kPerW
  return end + (heat.c - end) * Math.exp(-Math.max(0, at - heat.at) / model.timeConstantS)
}

/** Seconds keyed so far, the over that still lasts among them. */
export const keyDownAt = ({ keyDownS, keyedAt }: Play, at: number): number =>
  keyDownS + (keyedAt === null ? 0 : Math.max(0, at - keyedAt))

/** A whole list of actions. */
export const playThrough = (simulation: Simulation, actions: readonly Action[]): Play =>
  actions.reduce((play, action) => act(simulation, play, action), begin(simulation))
