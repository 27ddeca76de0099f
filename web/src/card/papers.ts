/** Papers that the card is made for. All are about as wide, so that it reads the same on each. */
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

const MARGIN = 9
const paper = (id: string, label: string, css: string, width: number, height: number): Paper => ({
  id,
  label,
  css,
  marginMm: MARGIN,
  widthMm: width - 2 * MARGIN,
  heightMm: height - 2 * MARGIN,
})

export const papers: readonly Paper[] = [
  paper('a5', 'A5', '210mm 148mm', 210, 148),
  paper('a4', 'A4', '210mm 297mm', 210, 297),
  paper('letter', 'Letter', '216mm 279mm', 216, 279),
]
