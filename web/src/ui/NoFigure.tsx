/** Why there is no figure here, in its place. */
export const NoFigure = ({ message }: { message: string }) => (
  <p role="status" className="text-[18px] leading-snug text-caution">
    ▲ {message}
  </p>
)
