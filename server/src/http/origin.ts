/** Whom an address is counted as. */
import { isIPv6 } from 'node:net'

/**
 * An IPv4 address, or the first 64 bits of an IPv6 address: whoever has one of those has all that begin like it
 * (RFC 4291, section 2.5.4), so that counting them one by one would count nothing.
 */
export function originOf(address: string | undefined): string {
  if (address === undefined) return 'unknown'
  const [bare = ''] = address.split('%')
  const mapped = /^::ffff:(\d+\.\d+\.\d+\.\d+)$/i.exec(bare)?.[1]
  if (mapped) return mapped
  if (!isIPv6(bare) || bare === '::1') return bare
  const [head = '', tail] = bare.split('::')
  const groups = (text: string | undefined) => (text ? text.split(':') : [])
  const filled =
    tail === undefined
      ? groups(head)
      : [
          ...groups(head),
          ...Array<string>(Math.max(0, 8 - groups(head).length - groups(tail).length)).fill('0'),
          ...groups(tail),
        ]
  return `${filled
    .slice(0, 4)
    .map((group) => Number.parseInt(group, 16).toString(16))
    .join(':')}::/64`
}
