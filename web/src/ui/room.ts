/**
 * Marks an element with the number of columns that fit into it, for the variants `two:` and `three:` of what it holds.
 * Measured once for all of it, and not by container queries: those lay the page out twice for every changed figure.
 */
export function room(element: HTMLElement | null) {
  if (!element) return
  const mark = (width: number) =>
    (element.dataset['room'] = width >= 1152 ? '3' : width >= 820 ? '2' : '1')
  // Most often it is as wide as the window. Before anything is painted the observer says how wide it is.
  mark(window.innerWidth)
  const observer = new ResizeObserver(([entry]) => mark(entry!.contentRect.width))
  observer.observe(element)
  return () => observer.disconnect()
}
