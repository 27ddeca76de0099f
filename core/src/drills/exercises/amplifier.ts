/** An amplifier with tune and load controls: a model that teaches the order of work, not an amplifier. */
import type { Settings } from '../play.ts'
import { between, choices, dial, type Exercise } from './exercise.ts'

export interface TunedAmplifier {
  /** Where the controls belong at little drive, 0 to 100, and how wide the peak is. */
  tune: number
  load: number
  tuneWidth: number
  loadWidth: number
}

const DRIVES = [5, 10, 20, 35, 50]
const FULL_W = 450
const GRID_LIMIT_MA = 200
const PLATE_LIMIT_MA = 700
/** Off resonance by more than this many widths the plate current runs away. */
const RUNAWAY = 1.6

/** Output of drive alone: nearly straight, then bending over. */
const driven = (driveW: number): number => (FULL_W * 1.18 * driveW) / (driveW + 9)

/**
 * What the controls make of a drive: tune shifts a little with load, and the best load rises with the drive. Too little
 * load for the drive drives current into the grid; tune far off resonance makes the plate current high.
 */
function tunedOutput(amplifier: TunedAmplifier, driveW: number, tune: number, load: number) {
  const bestLoad = amplifier.load + 0.35 * driveW
  const bestTune = amplifier.tune + 0.08 * (load - amplifier.load)
  const t = (tune - bestTune) / amplifier.tuneWidth
  const l = (load - bestLoad) / amplifier.loadWidth
  const outputW = driven(driveW) / (1 + t * t) / (1 + l * l)
  const under = Math.max(0, -l)
  return {
    outputW,
    gridMa: driveW * (2.2 + 4 * under),
    plateMa: Math.min(1000, 120 + 0.95 * driven(driveW) * (1 + 0.45 * Math.min(3, t * t))),
    runaway: Math.abs(t) > RUNAWAY && driveW > 10,
    bestTune,
    bestLoad,
  }
}

/** The most that a drive gives with both controls right. */
export const mostOutput = (driveW: number): number => driven(driveW)

const outOf = (amplifier: TunedAmplifier, { drive, tune, load }: Settings) =>
  tunedOutput(amplifier, Number(drive), Number(tune), Number(load))

export const amplifierLoading: Exercise = {
  id: 'tune-and-load',
  title: 'Amplifier with tune and load',
  goal: 'Into the dummy load, tune and load through rising drive until 50 W of drive gives its full output, with grid current below 200 mA; then put it on the antenna.',
  caution:
    'High voltage is inside an amplifier even after it is switched off. Never key it without a load; keep each over short.',
  lesson:
    'Tune for most output at little drive, then raise the drive and load after it, and tune again: each moves the other. Too little load for the drive sends current into the grid and distorts; off resonance the plate takes all the power as heat, so unkey at once. This is a teaching model: it shows the order of work, not any amplifier.',
  timeS: 240,
  keyDownS: 80,
  overS: 10,
  asks: [],
  sheet: 'amplifier-loading',
  term: 'Average power',
  draw(random) {
    const amplifier: TunedAmplifier = {
      tune: between(random, 30, 70),
      load: between(random, 25, 50),
      tuneWidth: between(random, 6, 10),
      loadWidth: between(random, 18, 26),
    }
    return {
      simulation: {
        keyed: true,
        // A note of the last settings brings one near, not there.
        start: {
          drive: 5,
          tune: Math.round(amplifier.tune + between(random, -9, 9)),
          load: Math.round(amplifier.load + between(random, -10, 10)),
          to: 'dummy',
        },
        controls: () => [
          { id: 'drive', label: 'Drive', kind: 'choice', options: choices(DRIVES, 'W') },
          dial('tune', 'Tune'),
          dial('load', 'Load'),
          {
            id: 'to',
            label: 'Output goes to',
            kind: 'choice',
            cold: true,
            options: [
              { value: 'dummy', label: 'dummy load' },
              { value: 'antenna', label: 'antenna' },
              { value: 'open', label: 'nothing, disconnected' },
            ],
          },
        ],
        faces: () => [
          { id: 'output', label: 'Output', unit: 'W', full: 600, divisions: 60 },
          { id: 'grid', label: 'Grid current', unit: 'mA', full: 300, divisions: 30 },
          { id: 'plate', label: 'Plate current', unit: 'mA', full: 1000, divisions: 50 },
        ],
        sense(settings) {
          const { outputW, gridMa, plateMa, runaway } = outOf(amplifier, settings)
          const open = settings['to'] === 'open'
          return {
            needles: { output: open ? 0 : outputW, grid: gridMa, plate: plateMa },
            troubles: [
              ...(open ? (['no load'] as const) : []),
              ...(gridMa > GRID_LIMIT_MA || plateMa > PLATE_LIMIT_MA || runaway
                ? (['over limit'] as const)
                : []),
            ],
            ...(settings['to'] === 'dummy' && { heatW: outputW }),
          }
        },
        advance(memory, settings) {
          if (settings['keyed'] !== 'yes') return memory
          const { outputW } = outOf(amplifier, settings)
          const done = settings['drive'] === 50 && outputW > 0.95 * mostOutput(50)
          return done && settings['to'] === 'dummy' ? { ...memory, dummy: 'yes' } : memory
        },
        heat: { kPerW: 0.35, timeConstantS: 240, mostC: 150 },
      },
      facts: [
        ['Full output', `${Math.round(mostOutput(50))} W for 50 W of drive`],
        ['Grid current, at the most', `${GRID_LIMIT_MA} mA`],
        ['Plate current, at the most', `${PLATE_LIMIT_MA} mA`],
      ],
      judge(play) {
        const { outputW, gridMa } = outOf(amplifier, play.settings)
        const full = play.settings['drive'] === 50
        const good = full && outputW > 0.95 * mostOutput(50)
        return [
          { what: 'full output reached on the dummy load', ok: play.memory['dummy'] === 'yes' },
          { what: '50 W of drive', ok: full },
          { what: 'within 5 % of what that drive can give', ok: good },
          { what: 'grid current within its limit', ok: gridMa <= GRID_LIMIT_MA },
          {
            what: 'keyed on the antenna',
            ok: good && play.settings['to'] === 'antenna' && play.keyedAt !== null,
          },
        ]
      },
      truth(play) {
        const { bestLoad, outputW } = outOf(amplifier, { ...play.settings, drive: 50 })
        const { bestTune } = tunedOutput(amplifier, 50, 0, bestLoad)
        return [
          ['Tune belongs at', bestTune.toFixed(0)],
          ['Load belongs at, with 50 W of drive', bestLoad.toFixed(0)],
          ['As set, 50 W of drive would give', `${outputW.toFixed(0)} W`],
        ]
      },
    }
  },
}
