import type { PadPart } from '@saltline/contract'

export type IconKind =
  PadPart | 'line' | 'series' | 'shunt' | 'measured' | 'tuner' | 'amplifier' | 'bypassed'

/** Plain strokes in a 24 × 20 field: what a thing does, not what a maker's case looks like. */
const strokes: Record<Exclude<IconKind, 'line'>, string> = {
  connector: 'M2 10h7M15 10h7M9 6v8M15 6v8M9 10h6',
  switch: 'M3 10h5M8 10l8-5M16 10h5M16 5v0M8 10v0',
  arrester: 'M13.500 3l-4 7.500h5.500l-4.500 6.500',
  meter: 'M5 14a7 7 0 0 1 14 0M12 14l3.500-5',
  filter: 'M4 6c3 0 5 0 6.500 3s3 6 9.500 6',
  choke: 'M3 10c1-5 3.500-5 4.500 0s3.500 5 4.500 0 3.500-5 4.500 0 3.500 5 4.500 0',
  attenuator: 'M4 5l16 5-16 5z',
  series: 'M2 10h3l1.500-4 3 8 3-8 3 8 3-8 1.500 4h2',
  shunt: 'M3 5h18M12 5v4M7 9h10M7 12h10M12 12v4M8 16h8',
  measured: 'M4 4v12h16M7 13c2-7 4-8 5-5s3 1 6-4',
  tuner: 'M3 13c1-5 3.500-5 4.500 0s3.500 5 4.500 0 3.500-5 4.500 0M6 18L20 3M16 3h4v4',
  amplifier: 'M20 3.500L4 10l16 6.500z',
  bypassed: 'M3 12c0-9 18-9 18 0',
}

export function StageIcon({ kind }: { kind: Exclude<IconKind, 'line'> }) {
  return (
    <svg
      viewBox="0 0 24 20"
      width="24"
      height="20"
      aria-hidden
      fill="none"
      stroke="currentColor"
      strokeWidth="1.6"
      strokeLinecap="round"
      strokeLinejoin="round"
    >
      <path d={strokes[kind]} />
    </svg>
  )
}
