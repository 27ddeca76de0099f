/** What went wrong, in words, where it happened; nothing where all is well. */
export const Problem = ({ text }: { text: string | null }) =>
  text === null ? null : (
    <p role="alert" className="mt-2 text-sm text-danger">
      ⚠ {text}
    </p>
  )
