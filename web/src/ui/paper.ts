/** Papers that pages of the application are printed on. */
import { useSearchParams } from 'react-router'

export interface Paper {
  id: string
  label: string
  /** As a page size in print. */
  css: string
  marginMm: number
  /** What can be written on, mm. */
  widthMm: number
  heightMm: number
}

const sizes = {
  a5: ['A5', 148, 210],
  'a5 across': ['A5', 210, 148],
  a4: ['A4', 210, 297],
  letter: ['Letter', 216, 279],
} as const

/** A paper with the same margin on every side. */
export function paperOf(size: keyof typeof sizes, marginMm: number): Paper {
  const [label, width, height] = sizes[size]
  return {
    id: size.split(' ')[0]!,
    ...{ label, marginMm, css: `${width}mm ${height}mm` },
    ...{ widthMm: width - 2 * marginMm, heightMm: height - 2 * marginMm },
  }
}

/** The one that the address names, else the usual one; and what chooses another. */
export function usePaper(
  papers: readonly Paper[],
  usual: Paper,
): [paper: Paper, choose: (id: string) => void] {
  const [search, setSearch] = useSearchParams()
  const paper = papers.find(({ id }) => id === search.get('paper')) ?? usual
  const choose = (id: string) =>
    setSearch(
      (old) => {
        const next = new URLSearchParams(old)
        next.set('paper', id)
        return next
      },
      { replace: true },
    )
  return [paper, choose]
}
