import { dayText, isOfOneChain, type Scope, type Token } from '@saltline/contract'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { makeToken, revokeToken, tokensQuery } from '../../platform/api/accessQueries.ts'
import { act, copyText } from '../../platform/act.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { stationsQuery } from '../../platform/api/queries.ts'
import { TextField } from '../../ui/TextField.tsx'
import { SecretField } from '../../ui/SecretField.tsx'

/** From the least to the most. */
const scopeNames: Readonly<Record<Scope, string>> = {
  live: 'send live figures only',
  sweep: 'send sweeps of an analyser only',
  calendar: 'read the calendar of what is due only',
  read: 'read',
  enter: 'read, and enter readings',
  change: 'read, and change the record',
  own: 'everything, backups too',
}

/** Tokens for scripts and meters: shown once, revoked at any time. */
export function Tokens() {
  const client = useQueryClient()
  const { data: tokens = [] } = useQuery(tokensQuery)
  const [name, setName] = useState('meter')
  const [scope, setScope] = useState<Scope>('live')
  const [chainId, setChainId] = useState('')
  const [passphrase, setPassphrase] = useState('')
  const { data: stations = [] } = useQuery(stationsQuery)
  const nameOf = (id: string) =>
    stations.flatMap(({ chains }) => chains).find((chain) => chain.id === id)?.name ?? id
  const [shown, setShown] = useState<(Token & { token: string }) | null>(null)
  const again = () => client.invalidateQueries(tokensQuery)
  return (
    <section aria-label="Tokens">
      <h3 className="border-b border-ink pb-1 font-bold">Tokens for scripts and meters</h3>
      <form
        className="mt-2 grid gap-2 sm:grid-cols-2"
        aria-label="Make a token"
        onSubmit={(event) => {
          event.preventDefault()
          void act(async () => {
            const one = isOfOneChain(scope) && chainId !== '' ? { chainId } : {}
            setShown(await makeToken({ name, scope, passphrase, ...one }))
            setPassphrase('')
            await again()
          })
        }}
      >
        <TextField label="What it is for" value={name} most={60} onChange={setName} />
        <ChoiceField<Scope>
          label="It may"
          value={scope}
          options={(Object.keys(scopeNames) as Scope[]).map((value) => ({
            value,
            label: scopeNames[value],
          }))}
          onChange={setScope}
        />
        {isOfOneChain(scope) && (
          <ChoiceField
            label="Of which chain"
            value={chainId}
            options={[
              { value: '', label: 'any' },
              ...stations.flatMap(({ chains }) =>
                chains.map(({ id, name: label }) => ({ value: id, label })),
              ),
            ]}
            onChange={setChainId}
          />
        )}
        <SecretField
          label="Passphrase again"
          value={passphrase}
          onChange={setPassphrase}
          autoComplete="current-password"
        />
        <div className="self-end">
          <button type="submit" className="button button-main" disabled={passphrase === ''}>
            Make a token
          </button>
        </div>
      </form>
      {shown && (
        <div role="status" className="mt-3 border-l-4 border-caution pl-3">
          <p className="text-sm text-caution">▲ Shown this once. Copy it now.</p>
          <p className="break-all">
            <code>{shown.token}</code>
          </p>
          <p className="mt-1 flex gap-2">
            <button
              type="button"
              className="button"
              onClick={() =>
                void act(async () => {
                  await copyText(shown.token)
                  return { said: 'Token copied.' }
                })
              }
            >
              Copy
            </button>
            <button type="button" className="button" onClick={() => setShown(null)}>
              I have it
            </button>
          </p>
        </div>
      )}
      <ul className="mt-3 text-sm">
        {tokens.map((token) => (
          <li
            key={token.id}
            className="flex items-baseline justify-between gap-3 border-t border-rule py-1"
          >
            <span>
              <b>{token.name}</b> may {scopeNames[token.scope]}
              {token.chainId !== undefined && ` of ${nameOf(token.chainId)}`};{' '}
              <span className="text-muted">
                made {dayText(token.createdAt)},{' '}
                {token.usedAt ? `used ${dayText(token.usedAt)}` : 'not used yet'}
              </span>
            </span>
            <button
              type="button"
              className="link min-h-6 shrink-0"
              aria-label={`Revoke ${token.name}`}
              onClick={() =>
                void act(async () => {
                  await revokeToken(token.id)
                  if (shown?.id === token.id) setShown(null)
                  await again()
                  return { said: `${token.name} may not in any more.` }
                })
              }
            >
              revoke
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}
