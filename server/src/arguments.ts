/** What the server is told on its command line. */
import { readFileSync } from 'node:fs'
import { isIP } from 'node:net'
import { createSecureContext } from 'node:tls'
import { parseArgs, type ParseArgsConfig } from 'node:util'
import { inServer } from './home.ts'

/** Ends with a message for the person at the keyboard, without a stack. */
export function give(message: string): never {
  console.error(`Salt Line cannot start.\n${message}`)
  process.exit(1)
}

export const HELP = `Salt Line server
  --port N          port to listen on (4173, or SALTLINE_PORT)
  --host NAME       address to listen on (127.0.0.1: this machine only)
  --network         open to the station's network, with a passphrase; --host then says on which address (all)
  --set-passphrase  ask for another passphrase first; every device signs in anew
  --https           speak HTTPS with a certificate of its own making
  --cert FILE       certificate, PEM: with --key the server speaks HTTPS
  --key FILE        its key, PEM
  --public-url URL  address under which a reverse proxy shows this server, as https://radio.example
  --base-path PATH  path that the proxy shows it under, as /radio; it is passed on unchanged
  --trust-proxy IP  address of that proxy, whose X-Forwarded headers are believed; may be given
                    more than once
  --allow-host NAME further host name to answer to; may be given more than once
  --db FILE         database file (data/saltline.sqlite, or SALTLINE_DB)
  --create          make the database where it is missing
  --backups DIR     folder of the copies that are made every night (beside the database,
                    or SALTLINE_BACKUPS); one on another disk outlives this one
  --demo            add the demo station where there is no station yet
  --quiet           log warnings and errors only
  --log FORMAT      text, for people, or json: one line of JSON for each event (text)`

const options = {
  port: { type: 'string', default: process.env['SALTLINE_PORT'] ?? '4173' },
  host: { type: 'string' },
  network: { type: 'boolean', default: false },
  'set-passphrase': { type: 'boolean', default: false },
  https: { type: 'boolean', default: false },
  cert: { type: 'string' },
  key: { type: 'string' },
  'public-url': { type: 'string' },
  'base-path': { type: 'string', default: '' },
  'trust-proxy': { type: 'string', multiple: true, default: [] },
  'allow-host': { type: 'string', multiple: true, default: [] },
  db: {
    type: 'string',
    default: process.env['SALTLINE_DB'] ?? inServer('../data/saltline.sqlite'),
  },
  backups: { type: 'string' },
  create: { type: 'boolean', default: false },
  demo: { type: 'boolean', default: false },
  quiet: { type: 'boolean', default: false },
  log: { type: 'string', default: 'text' },
  help: { type: 'boolean', default: false },
} as const satisfies ParseArgsConfig['options']

export type Arguments = ReturnType<typeof readArguments>

export function readArguments(argv: readonly string[]) {
  try {
    return parseArgs({ args: [...argv], options }).values
  } catch (error) {
    // “Unknown option '--prot'. To specify a positional argument …”: the first sentence says it.
    const [first] = (error as Error).message.split('. ')
    return give(`${first}.\n\n${HELP}`)
  }
}

export const isLoopback = (host: string): boolean =>
  host === 'localhost' || host === '::1' || /^127(\.\d{1,3}){3}$/.test(host)

/** Where a reverse proxy shows the server; undefined without one. */
export function publicAddress({ 'public-url': url, 'trust-proxy': proxies, network }: Arguments) {
  const wrong = proxies.find((address) => isIP(address) === 0)
  if (wrong !== undefined)
    give(`--trust-proxy ${wrong}: give the address of the proxy, as 127.0.0.1.`)
  if (url === undefined) {
    if (proxies.length > 0)
      give('--trust-proxy goes with --public-url: the address that the proxy shows.')
    return undefined
  }
  if (!URL.canParse(url) || !/^https?:$/.test(new URL(url).protocol))
    give(`--public-url ${url}: write it as https://radio.example.`)
  const address = new URL(url)
  if (address.pathname !== '/')
    give('--public-url: give the host alone, and the path on it with --base-path.')
  if (!network)
    give(
      '--public-url shows the server to others: add --network, which asks them for a passphrase.',
    )
  if (proxies.length === 0)
    give('--public-url goes with --trust-proxy: the address that the proxy comes from.')
  return address
}

/** Both or neither of --cert and --key, as files. */
export function readCertificate({ https, cert, key }: Arguments) {
  if (https && (cert !== undefined || key !== undefined))
    give('--https makes a certificate of its own: leave --cert and --key out, or --https.')
  if (cert === undefined && key === undefined) return undefined
  if (cert === undefined || key === undefined) give('--cert and --key belong together: give both.')
  const read = (path: string, what: string) => {
    try {
      return readFileSync(path)
    } catch {
      return give(`The ${what} “${path}” could not be read.`)
    }
  }
  const pair = { cert: read(cert, 'certificate'), key: read(key, 'key') }
  try {
    createSecureContext(pair)
  } catch (error) {
    give(`Certificate and key do not fit: ${(error as Error).message}.`)
  }
  return pair
}
