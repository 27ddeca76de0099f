import { expect, test } from 'vitest'
import { originOf } from '../src/http/origin.ts'

test.each([
  ['192.0.2.7', '192.0.2.7'],
  ['::ffff:192.0.2.7', '192.0.2.7'],
  ['::1', '::1'],
  ['2001:db8:1:2:3:4:5:6', '2001:db8:1:2::/64'],
  ['2001:db8:1:2:ffff::1', '2001:db8:1:2::/64'],
  ['2001:0db8:0001:0002::1', '2001:db8:1:2::/64'],
  ['2001:db8::1', '2001:db8:0:0::/64'],
  ['2001:db8::1:2:3:4:5', '2001:db8:0:1::/64'],
  ['fe80::1%eth0', 'fe80:0:0:0::/64'],
  ['::', '0:0:0:0::/64'],
])('%s is counted as %s', (address, origin) => expect(originOf(address)).toBe(origin))

test('who came by no address is counted as one', () => expect(originOf(undefined)).toBe('unknown'))
