import type { Scope, Token } from '@saltline/contract'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { makeToken, revokeToken, tokensQuery } from '../../platform/api/accessQueries.ts'
import { act, copyText } from '../../platform/act.ts'
import { dayText } from '../../model/places.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { TextField } from '../../ui/TextField.tsx'

const scopeNames: Readonly<Record<Scope, string>> = {
  read: 'read',
  enter: 'read, and enter readings',
  everything: 'everything',
}

/** Tokens for scripts and meters: shown once, revoked at any time. */
export function Tokens() {
  const client = useQueryClient()
  const { data: tokens = [] } = useQuery(tokensQuery)
  const [name, setName] = useState('meter')
  const [scope, setScope] = useState<Scope>('enter')
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
            setShown(await makeToken({ name, scope }))
            await again()
          })
        }}
      >
        <TextField label="What it is for" value={name} most={60} onChange={setName} />
        <ChoiceField<Scope>
          label="It may"
          value={scope}
          options={(['read', 'enter', 'everything'] as const).map((value) => ({
            value,
            label: scopeNames[value],
          }))}
          onChange={setScope}
        />
        <div>
          <button type="submit" className="button button-main">
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
              <b>{token.name}</b> may {scopeNames[token.scope]};{' '}
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
