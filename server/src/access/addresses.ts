/** By which addresses other machines reach this one. */
import { hostname, networkInterfaces } from 'node:os'

/** Addresses of this machine on its networks, IPv4 first; loopback is none of them. */
const networkAddresses = (): string[] =>
  Object.values(networkInterfaces())
    .flatMap((each) => each ?? [])
    .filter(({ internal }) => !internal)
    .sort((a, b) => Number(a.family === 'IPv6') - Number(b.family === 'IPv6'))
    // Addresses of one link alone need a zone that a browser does not take.
    .filter(({ address }) => !address.startsWith('fe80'))
    .map(({ address, family }) => (family === 'IPv6' ? `[${address}]` : address))

/** Interfaces are looked at again after so long, ms: they come and go, but not for every request. */
const REMEMBERED_MS = 2000

/** Names that a server answers to when it listens on an address, as they are now. */
export function namesFor(host: string): () => readonly string[] {
  if (!['0.0.0.0', '::'].includes(host)) return () => [host]
  let names: readonly string[] = []
  let at = -Infinity
  return () => {
    if (Date.now() - at > REMEMBERED_MS) {
      names = [...networkAddresses(), hostname(), `${hostname()}.local`]
      at = Date.now()
    }
    return names
  }
}
