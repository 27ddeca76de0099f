/** A tuner that tunes itself, inside its window of power. */
import { between, choices, type Exercise } from './exercise.ts'

const POWERS = [2, 5, 10, 15, 25, 50, 100]

export const automaticTuner: Exercise = {
  id: 'tuning-window',
  title: 'An automatic tuner inside its window',
  goal: 'Get the tuner to find its setting with a steady carrier inside its window of power, then go to 100 W.',
  caution:
    'Relays that switch under full power weld. Look for a clear frequency before every carrier.',
  lesson:
    'An automatic tuner needs enough steady power to sense and little enough to switch: its window. Hold the carrier until the reflected power has fallen and stays there; letting go early leaves it anywhere. Only then raise the power, and watch the first over.',
  timeS: 120,
  keyDownS: 40,
  asks: [],
  sheet: 'automatic-tuner',
  term: 'Foldback',
  draw(random) {
    const [least, most] = random() < 0.5 ? [4, 20] : [8, 30]
    const needsS = Math.round(between(random, 3, 7))
    const before = between(random, 0.45, 0.7)
    const after = between(random, 0.03, 0.1)
    const inside = (watts: number) => watts >= least && watts <= most
    return {
      simulation: {
        keyed: true,
        start: { power: 2, mode: 'voice', tune: 'off', range: 10 },
        controls: () => [
          { id: 'power', label: 'Set power', kind: 'choice', options: choices(POWERS, 'W') },
          {
            id: 'mode',
            label: 'Mode',
            kind: 'choice',
            options: [
              { value: 'voice', label: 'voice' },
              { value: 'carrier', label: 'steady carrier' },
            ],
          },
          {
            id: 'tune',
            label: 'Tuner',
            kind: 'choice',
            options: [
              { value: 'off', label: 'stays as it is' },
              { value: 'on', label: 'asked to tune' },
            ],
          },
          { id: 'range', label: 'Range', kind: 'choice', options: choices([10, 30, 100], 'W') },
        ],
        faces: ({ range }) => [
          { id: 'forward', label: 'Forward', unit: 'W', full: Number(range), divisions: 50 },
          { id: 'reflected', label: 'Reflected', unit: 'W', full: Number(range), divisions: 50 },
        ],
        sense(settings, _count, memory) {
          const watts = Number(settings['power']) * (settings['mode'] === 'voice' ? 0.3 : 1)
          const tuned = Number(memory['tuned'] ?? 0) >= needsS
          const rho = tuned ? after : before
          const fold = rho > 0.35 ? 1 - (rho - 0.35) * 1.4 : 1
          const asked = settings['tune'] === 'on' && !tuned
          return {
            needles: { forward: watts * fold, reflected: watts * fold * rho * rho },
            troubles:
              (asked && Number(settings['power']) > most) || (!tuned && watts > 60)
                ? ['tuned too hot']
                : [],
          }
        },
        advance(memory, settings, seconds) {
          const senses =
            settings['keyed'] === 'yes' &&
            settings['tune'] === 'on' &&
            settings['mode'] === 'carrier' &&
            inside(Number(settings['power']))
          const tuned = Number(memory['tuned'] ?? 0)
          // What it has found, it keeps; what was broken off begins again.
          return senses ? { tuned: tuned + seconds } : tuned >= needsS ? memory : { tuned: 0 }
        },
      },
      facts: [
        ['Tunes between', `${least} and ${most} W, steady carrier`],
        ['Takes', 'some seconds'],
      ],
      judge(play) {
        const tuned = Number(play.memory['tuned'] ?? 0) >= needsS
        const { power, mode, tune } = play.settings
        return [
          { what: 'the tuner has found its setting', ok: tuned },
          { what: 'it is not asked to tune any more', ok: tuned && tune === 'off' },
          {
            what: 'keyed at 100 W',
            ok: tuned && power === 100 && mode === 'carrier' && play.keyedAt !== null,
          },
        ]
      },
      truth: () => [
        ['It needed', `${needsS} s of carrier`],
        ['|ρ| before and after', `${before.toFixed(2)} and ${after.toFixed(2)}`],
      ],
    }
  },
}
