/**
 * Moves a row sideways, so that one of it is seen where not all fit; the page itself stays where it is. When the page is laid
 * out anyway, so that it is not laid out twice.
 */
export const intoView = (one: HTMLElement | null): void => {
  if (!one) return
  requestAnimationFrame(() => {
    const row = one.parentElement
    if (!row) return
    const own = one.getBoundingClientRect()
    const shown = row.getBoundingClientRect()
    row.scrollLeft += Math.max(0, own.right - shown.right) + Math.min(0, own.left - shown.left)
  })
}
