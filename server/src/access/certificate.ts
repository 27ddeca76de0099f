/** A certificate that the server makes itself where there is none at hand: what crosses the network is then encrypted. */
import { X509Certificate } from 'node:crypto'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { isIP } from 'node:net'
import type { Certificate } from '../http/listen.ts'

/** Longer than a year no browser takes one. */
const GOOD_DAYS = 365
/** Made anew when it is good for less, days. */
const RENEW_DAYS = 30
const DAY_MS = 86_400_000

/** Certificate and key beside a station's database, in one file for its owner alone. */
const certificateFileOf = (file: string): string => file.replace(/(\.sqlite)?$/, '-https.pem')

/**
 * The certificate of this station, kept so that its fingerprint stays the same.
 *
 * @param names by which it is reached; one that is made holds for them and for this machine
 */
export async function ownCertificate(
  file: string,
  names: readonly string[],
): Promise<Certificate & { fingerprint: string }> {
  const path = certificateFileOf(file)
  const pem = (existsSync(path) && stillGood(readFileSync(path, 'utf8'))) || (await make(names))
  writeFileSync(path, pem, { mode: 0o600 })
  return {
    cert: Buffer.from(pem),
    key: Buffer.from(pem),
    fingerprint: new X509Certificate(pem).fingerprint256,
  }
}

/** A kept one, unless it ends soon. */
function stillGood(pem: string): string | null {
  try {
    const { validTo } = new X509Certificate(pem)
    return Date.parse(validTo) - Date.now() > RENEW_DAYS * DAY_MS ? pem : null
  } catch {
    return null
  }
}

async function make(names: readonly string[]): Promise<string> {
  const all = [
    ...new Set(['localhost', '127.0.0.1', ...names.map((name) => name.replace(/[[\]]/g, ''))]),
  ]
  // Much to read, and needed once in two years.
  const { generate } = await import('selfsigned')
  const { cert, private: key } = await generate([{ name: 'commonName', value: 'Salt Line' }], {
    keyType: 'ec',
    algorithm: 'sha256',
    notAfterDate: new Date(Date.now() + GOOD_DAYS * DAY_MS),
    extensions: [
      { name: 'basicConstraints', cA: false, critical: true },
      { name: 'keyUsage', digitalSignature: true, critical: true },
      { name: 'extKeyUsage', serverAuth: true },
      {
        name: 'subjectAltName',
        altNames: all.map((name) =>
          isIP(name) ? { type: 7 as const, ip: name } : { type: 2 as const, value: name },
        ),
      },
    ],
  })
  return `${cert.trim()}\n${key.trim()}\n`
}
