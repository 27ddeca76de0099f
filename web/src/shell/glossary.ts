import text from '../../../docs/glossary.md?raw'

export interface Entry {
  /** As it stands in an address: `return-loss`. */
  id: string
  term: string
  text: string
}

/** docs/glossary.md, which is the one glossary: a bold term and what it means, a paragraph each. */
export const glossary: readonly Entry[] = text.split(/\n\n+/).flatMap((paragraph) => {
  const [, terms, meaning] = /^\*\*(.+?)\.\*\* (.+)$/s.exec(paragraph.trim()) ?? []
  if (!terms || !meaning) return []
  return [{ id: termId(terms), term: terms, text: meaning.replace(/\s+/g, ' ') }]
})

function termId(term: string): string {
  return term
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
}

/** The entry of a term: by its address, or by one of the terms that share it. */
export const entryOf = (id: string): Entry | undefined =>
  glossary.find((entry) => entry.id === id) ??
  glossary.find(({ term }) => term.split(/, | \(/).some((part) => termId(part) === id))
