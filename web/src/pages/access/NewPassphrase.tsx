import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { toast } from 'sonner'
import { changePassphrase, devicesQuery, tokensQuery } from '../../platform/api/accessQueries.ts'
import { ApiError } from '../../platform/api/client.ts'
import { errorText } from '../../platform/errorText.ts'
import { Fold } from '../../ui/Fold.tsx'
import { SecretField } from '../../ui/SecretField.tsx'

const nothing = { present: '', next: '', tokens: false }

/** Another passphrase, after the present one was given. */
export function NewPassphrase() {
  const client = useQueryClient()
  const [typed, setTyped] = useState(nothing)
  const [trouble, setTrouble] = useState<{ field: string; text: string } | null>(null)
  const set = (part: Partial<typeof nothing>) => {
    setTyped({ ...typed, ...part })
    setTrouble(null)
  }
  const change = async () => {
    try {
      await changePassphrase(typed)
      toast(
        typed.tokens
          ? 'The passphrase is changed. Every other device and every token has to come in anew.'
          : 'The passphrase is changed. Every other device has to sign in anew; tokens go on.',
      )
      setTyped(nothing)
      await client.invalidateQueries(devicesQuery)
      await client.invalidateQueries(tokensQuery)
    } catch (error) {
      const field = error instanceof ApiError ? error.problem.errors?.[0]?.pointer : undefined
      setTrouble({ field: field ?? '/present', text: errorText(error) })
    }
  }
  const errorAt = (field: string) => (trouble?.field === field ? trouble.text : null)
  return (
    <section aria-label="Passphrase">
      <h3 className="border-b border-ink pb-1 font-bold">Passphrase</h3>
      <Fold summary="Change it">
        <form
          className="mt-2 space-y-3"
          onSubmit={(event) => {
            event.preventDefault()
            void change()
          }}
        >
          <SecretField
            label="Present passphrase"
            value={typed.present}
            onChange={(present) => set({ present })}
            autoComplete="current-password"
            error={errorAt('/present')}
          />
          <SecretField
            label="New passphrase: four words that have nothing to do with each other"
            value={typed.next}
            onChange={(next) => set({ next })}
            autoComplete="new-password"
            error={errorAt('/next')}
          />
          <TokensToo checked={typed.tokens} onChange={(tokens) => set({ tokens })} />
          <button
            type="submit"
            className="button button-main"
            disabled={typed.present === '' || typed.next === ''}
          >
            Change the passphrase
          </button>
        </form>
      </Fold>
    </section>
  )
}

/** Whether tokens end with the rest. */
export const TokensToo = ({
  label = 'tokens of scripts and meters end too',
  checked,
  onChange,
}: {
  label?: string
  checked: boolean
  onChange: (checked: boolean) => void
}) => (
  <label className="flex min-h-6 items-center gap-2 text-sm">
    <input
      type="checkbox"
      className="size-4 accent-tide"
      checked={checked}
      onChange={({ target }) => onChange(target.checked)}
    />
    {label}
  </label>
)
