import { address } from '../../platform/base.ts'
import { useEffect, useRef, useState } from 'react'
import { Link, useParams } from 'react-router'
import { join } from '../../platform/api/accessQueries.ts'
import { errorText } from '../../platform/errorText.ts'
import { Gate } from './Gate.tsx'

/** Where a QR code leads: the code in the address is used up at once, and the address is left. */
export function JoinPage() {
  const { code = '' } = useParams()
  const [trouble, setTrouble] = useState<string | null>(null)
  const asked = useRef(false)
  useEffect(() => {
    if (asked.current) return
    asked.current = true
    join(code).then(
      () => location.replace(address('/')),
      (error: unknown) => setTrouble(errorText(error)),
    )
  }, [code])
  return (
    <Gate title={trouble ? 'This code does not work' : 'Joining the station'}>
      {trouble ? (
        <>
          <p role="alert" className="text-danger">
            ⚠ {trouble}
          </p>
          <p className="mt-4">
            <Link className="link" to="/sign-in">
              Sign in with the passphrase
            </Link>
          </p>
        </>
      ) : (
        <p className="text-muted">One moment.</p>
      )}
    </Gate>
  )
}
