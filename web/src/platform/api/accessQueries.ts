import { type TokenBody } from '@saltline/contract'
import { queryOptions } from '@tanstack/react-query'
import { ApiError, call, forgetSeen, owesSignOut } from './client.ts'

/** Whether the server is open to the network, and whether this device is signed in. */
export const accessQuery = queryOptions({
  queryKey: ['access'],
  queryFn: () => call('GET /access'),
})

export const tokensQuery = queryOptions({
  queryKey: ['tokens'],
  queryFn: () => call('GET /access/tokens'),
})

export const devicesQuery = queryOptions({
  queryKey: ['devices'],
  queryFn: () => call('GET /access/devices'),
})

/** A word for this device in the list of devices; it can be told from another of its kind by its address and its day. */
export const usualDeviceName = (): string =>
  matchMedia('(pointer: coarse)').matches && !matchMedia('(min-width: 1000px)').matches
    ? 'phone'
    : 'computer'

export async function signIn(passphrase: string, device: string) {
  const state = await call('POST /access/sign-in', { body: { passphrase, device } })
  owesSignOut.set(false)
  return state
}

export async function join(code: string) {
  const state = await call('POST /access/join', { body: { code, device: usualDeviceName() } })
  owesSignOut.set(false)
  return state
}

/**
 * Signs out: this browser keeps nothing of the station any more, whether the server answers or not.
 *
 * @returns whether the server knows; otherwise it is told when it answers again
 */
export async function signOut(): Promise<boolean> {
  // Owed from the press on: a page that is left before the server has answered stays signed out.
  owesSignOut.set(true)
  await forgetSeen()
  try {
    await call('POST /access/sign-out')
    owesSignOut.set(false)
    return true
  } catch (error) {
    // Not signed in: that is what was wanted.
    const known = error instanceof ApiError && error.problem.status === 401
    owesSignOut.set(!known)
    return known
  } finally {
    // What was being kept when it was pressed.
    await forgetSeen()
  }
}

/** Ends the access of every device, and of every token if wished. */
export async function signOutEverywhere(tokens: boolean) {
  await call('POST /access/sign-out-everywhere', { body: { tokens } })
  await forgetSeen()
}

export const endDevice = (id: string) => call('DELETE /access/devices/:id', { params: { id } })

export const changePassphrase = (body: { present: string; next: string; tokens: boolean }) =>
  call('PUT /access/passphrase', { body })

export const makeCode = () => call('POST /access/codes')

export const makeToken = (body: TokenBody) => call('POST /access/tokens', { body })

export const revokeToken = (id: string) => call('DELETE /access/tokens/:id', { params: { id } })
