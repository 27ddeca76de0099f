import qrcode from 'qrcode-generator'
import { useMemo } from 'react'

/** Modules of white around a code, as its standard asks. */
const QUIET = 4

/** A QR code, always dark on white: a camera reads nothing else well. */
export function QrCode({ text, className = 'w-56' }: { text: string; className?: string }) {
  const { size, path } = useMemo(() => {
    const code = qrcode(0, 'M')
    code.addData(text)
    code.make()
    const count = code.getModuleCount()
    let d = ''
    for (let row = 0; row < count; row++)
      for (let column = 0; column < count; column++)
        if (code.isDark(row, column)) d += `M${column + QUIET},${row + QUIET}h1v1h-1z`
    return { size: count + 2 * QUIET, path: d }
  }, [text])
  return (
    <svg
      viewBox={`0 0 ${size} ${size}`}
      className={`${className} rounded-lg`}
      role="img"
      aria-label="QR code for a phone"
      shapeRendering="crispEdges"
    >
      <rect width={size} height={size} fill="#ffffff" />
      <path d={path} fill="#000000" />
    </svg>
  )
}
