const celsiusText = (celsius: number) => `${Math.round(celsius)}\u00a0°C`

/** How hot the dummy load is: a column that fills toward its limit. */
export function Thermometer({ celsius, most }: { celsius: number; most: number }) {
  const share = Math.max(0, Math.min(1, (celsius - 20) / (most - 20)))
  const text = celsiusText(celsius)
  return (
    <div className="self-center text-sm">
      <p className="flex justify-between text-muted">
        Dummy load <b className="text-ink tabular-nums">{text}</b>
      </p>
      <div
        role="meter"
        aria-label="Temperature of the dummy load"
        aria-valuemin={20}
        aria-valuemax={most}
        aria-valuenow={Math.round(celsius)}
        aria-valuetext={text}
        className="mt-1 h-4 overflow-hidden rounded border border-edge"
      >
        <div
          className={share > 0.9 ? 'h-full bg-danger' : 'h-full bg-heat'}
          style={{ width: `${share * 100}%` }}
        />
      </div>
      <p className="mt-0.5 text-right text-xs text-muted">at the most {celsiusText(most)}</p>
    </div>
  )
}
