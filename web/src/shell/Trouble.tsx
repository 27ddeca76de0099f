import { Link } from 'react-router'
import { Header } from './Header.tsx'

/** A page that could not be shown: what is wrong and what to do. */
export function Trouble({ error }: { error: Error }) {
  return (
    <>
      <title>This page cannot be shown · Salt Line</title>
      <Header />
      <main className="mx-auto max-w-xl px-5 py-16">
        <h1 className="mb-2 text-xl font-bold">This page cannot be shown</h1>
        <p className="mb-4">{error.message}</p>
        <p className="flex gap-4">
          <button type="button" className="link" onClick={() => location.reload()}>
            Reload the page
          </button>
          <Link to="/" className="link">
            Go to the stations
          </Link>
        </p>
      </main>
    </>
  )
}
