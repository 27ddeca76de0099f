/** An icon of a stage: `strokes` in a field of 24 × 20. */
export function StageIcon({ strokes }: { strokes: string }) {
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
      <path d={strokes} />
    </svg>
  )
}
