/** The tide standing below its mark. */
export const Mark = () => (
  <svg viewBox="0 0 32 20" width="30" height="19" aria-hidden>
    <path fill="var(--tide)" d="M1 5h10c5 0 7 5 12 5.500L31 11.500V19H1z" />
    <path stroke="var(--ink)" strokeWidth="2" strokeDasharray="4 3" d="M1 2.500h30" />
  </svg>
)
