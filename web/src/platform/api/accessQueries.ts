import {
  accessStateSchema,
  codeSchema,
  newTokenSchema,
  type TokenBody,
  tokenSchema,
} from '@saltline/contract'
import { queryOptions } from '@tanstack/react-query'
import { z } from 'zod'
import { call, forgetSeen } from './client.ts'

/** Whether the server is open to the network, and whether this device is signed in. */
export const accessQuery = queryOptions({
  queryKey: ['access'],
  queryFn: () => call('GET', '/access', accessStateSchema),
})

export const tokensQuery = queryOptions({
  queryKey: ['tokens'],
  queryFn: () => call('GET', '/access/tokens', z.array(tokenSchema)),
})

export const signIn = (passphrase: string) =>
  call('POST', '/access/sign-in', accessStateSchema, { passphrase })

export const join = (code: string) => call('POST', '/access/join', accessStateSchema, { code })

export async function signOut(everywhere: boolean) {
  const path = everywhere ? '/access/sign-out-everywhere' : '/access/sign-out'
  const state = await call('POST', path, accessStateSchema, {})
  await forgetSeen()
  return state
}

export const makeCode = () => call('POST', '/access/codes', codeSchema, {})

export const makeToken = (body: TokenBody) => call('POST', '/access/tokens', newTokenSchema, body)

export const revokeToken = (id: string) => call('DELETE', `/access/tokens/${id}`, z.null())
