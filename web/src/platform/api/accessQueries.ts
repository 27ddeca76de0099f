import { type TokenBody } from '@saltline/contract'
import { queryOptions } from '@tanstack/react-query'
import { call, forgetSeen } from './client.ts'

/** Whether the server is open to the network, and whether this device is signed in. */
export const accessQuery = queryOptions({
  queryKey: ['access'],
  queryFn: () => call('GET /access'),
})

export const tokensQuery = queryOptions({
  queryKey: ['tokens'],
  queryFn: () => call('GET /access/tokens'),
})

export const signIn = (passphrase: string) => call('POST /access/sign-in', { body: { passphrase } })

export const join = (code: string) => call('POST /access/join', { body: { code } })

export async function signOut(everywhere: boolean) {
  const state = await call(
    everywhere ? 'POST /access/sign-out-everywhere' : 'POST /access/sign-out',
  )
  await forgetSeen()
  return state
}

export const makeCode = () => call('POST /access/codes')

export const makeToken = (body: TokenBody) => call('POST /access/tokens', { body })

export const revokeToken = (id: string) => call('DELETE /access/tokens/:id', { params: { id } })
