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

/** Names that a server answers to when it listens on an address. */
export const namesFor = (host: string): string[] =>
  ['0.0.0.0', '::'].includes(host)
    ? [...networkAddresses(), hostname(), `${hostname()}.local`]
    : [host]
