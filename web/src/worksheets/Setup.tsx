/** The set-up of a worksheet: what is connected to what, drawn from data. */

export type Piece =
  | 'transmitter'
  | 'meter'
  | 'second meter'
  | 'short lead'
  | 'cable'
  | 'load'
  | 'antenna'
  | 'analyser'
  | 'open end'
  | 'short'
  | 'probe'
  | 'ohmmeter'

export interface SetupRow {
  /** “first”, “then”; empty where there is one row only. */
  when: string
  pieces: readonly Piece[]
}

const STEP = 92
const LEFT = 54
const ROW = 74

export function Setup({ rows, title }: { rows: readonly SetupRow[]; title: string }) {
  const most = Math.max(...rows.map(({ pieces }) => pieces.length))
  const width = LEFT + most * STEP
  return (
    <svg
      viewBox={`0 0 ${width} ${rows.length * ROW}`}
      className="w-full"
      style={{ maxWidth: width * 1.15 }}
      role="img"
      aria-label={`${title}: ${rows.map(({ when, pieces }) => `${when} ${pieces.join(', ')}`).join('; ')}`}
    >
      {rows.map(({ when, pieces }, r) => (
        <g key={when} transform={`translate(0 ${r * ROW + 26})`}>
          <text x={0} y={4} fontSize={12} fill="var(--muted)">
            {when}
          </text>
          <line
            x1={LEFT + STEP / 2}
            x2={LEFT + (pieces.length - 0.5) * STEP}
            y1={0}
            y2={0}
            stroke="var(--ink)"
            strokeWidth={1.6}
          />
          {pieces.map((piece, i) => (
            <g key={i} transform={`translate(${LEFT + (i + 0.5) * STEP} 0)`}>
              <Glyph piece={piece} />
              <text y={36} fontSize={12} textAnchor="middle" fill="var(--ink)">
                {piece}
              </text>
            </g>
          ))}
        </g>
      ))}
    </svg>
  )
}

const line = { stroke: 'var(--ink)', strokeWidth: 1.6, fill: 'none' } as const
const box = { fill: 'var(--sheet)', stroke: 'var(--ink)', strokeWidth: 1.6 } as const

function Glyph({ piece }: { piece: Piece }) {
  switch (piece) {
    case 'transmitter':
      return (
        <>
          <rect x={-32} y={-10} width={64} height={20} rx={2} fill="var(--ink)" />
          <path d="M17 -5 l9 5 l-9 5 z" fill="var(--sheet)" />
        </>
      )
    case 'meter':
    case 'second meter':
      return (
        <>
          <circle r={17} {...box} />
          <path d="M-11 5 a12 12 0 0 1 22 0" {...line} strokeWidth={1.1} />
          <line x1={0} y1={8} x2={piece === 'meter' ? 6 : -3} y2={-6} {...line} />
        </>
      )
    case 'short lead':
      return (
        <line
          x1={-24}
          x2={24}
          y1={0}
          y2={0}
          stroke="var(--ink)"
          strokeWidth={4}
          strokeLinecap="round"
        />
      )
    case 'cable':
      return (
        <>
          <path d="M-46 0 h30 M16 0 h30" stroke="var(--tide)" strokeWidth={3.4} />
          {[-8, 0, 8].map((x) => (
            <circle key={x} cx={x} r={9} fill="none" stroke="var(--tide)" strokeWidth={2.6} />
          ))}
        </>
      )
    case 'load':
      return (
        <>
          <rect x={-26} y={-12} width={52} height={24} rx={2} {...box} />
          <path d="M-18 0 l4 -6 l6 12 l6 -12 l6 12 l6 -12 l4 6" {...line} stroke="var(--heat)" />
        </>
      )
    case 'antenna':
      return <path d="M0 0 V-20 M0 -20 l-15 10 M0 -20 l15 10" {...line} />
    case 'analyser':
      return (
        <>
          <rect x={-28} y={-15} width={56} height={30} rx={3} {...box} />
          <path d="M-20 -6 h12 q6 0 8 10 q2 -10 8 -10 h12" {...line} stroke="var(--tide)" />
        </>
      )
    case 'open end':
      return (
        <>
          <rect x={-8} y={-8} width={60} height={16} fill="var(--sheet)" />
          <circle r={4} {...box} />
        </>
      )
    case 'short':
      return (
        <>
          <rect x={2} y={-8} width={50} height={16} fill="var(--sheet)" />
          <line x1={0} x2={0} y1={-12} y2={12} {...line} strokeWidth={3.4} />
        </>
      )
    case 'probe':
      return (
        <>
          <rect x={-30} y={-14} width={60} height={28} rx={3} {...box} />
          <path d="M-18 0 h8 M-10 -7 v14 l12 -7 z M2 -7 v14 M2 0 h8" {...line} />
          <text x={19} y={4} fontSize={11} textAnchor="middle" fill="var(--ink)">
            V
          </text>
        </>
      )
    case 'ohmmeter':
      return (
        <>
          <circle r={17} {...box} />
          <text y={6} fontSize={16} textAnchor="middle" fill="var(--ink)">
            Ω
          </text>
        </>
      )
  }
}
