/** Dials on the front of a part, and the marks on them that were written down. */
import type { StageDocument } from '@saltline/contract'

const networks: Record<string, readonly string[]> = {
  T: ['Input capacitor', 'Coil', 'Output capacitor'],
  pi: ['Input capacitor', 'Coil', 'Output capacitor'],
  'L-low-pass': ['Coil', 'Capacitor'],
  'L-high-pass': ['Capacitor', 'Coil'],
}

/** What is written on its knobs, in order; none where it has none. */
export function dialNames(stage: StageDocument): readonly string[] {
  if (stage.kind === 'amplifier') return ['Tune', 'Load']
  if (stage.kind !== 'tuner') return []
  return stage.method === 'network' ? networks[stage.network]! : ['Dial 1', 'Dial 2', 'Dial 3']
}

/** The marks of a channel as they stand on the card. */
export const dialText = (marks: readonly string[] = []): string => marks.filter(Boolean).join(' · ')
