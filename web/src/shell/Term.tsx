import { Link, useLocation } from 'react-router'

/** A word of the glossary, in the text: press it for what it means. */
export function Term({ of, children }: { of?: string; children: string }) {
  const { search } = useLocation()
  const id = (of ?? children).toLowerCase().replace(/[^a-z0-9]+/g, '-')
  return (
    <Link className="term" to={{ search, hash: `#help/${id}` }} preventScrollReset>
      {children}
    </Link>
  )
}
