/**
 * Nobody who works by keyboard is put at the top of the page: what had the focus and is gone, or can no longer be pressed,
 * hands it to its neighbour. One watch for all closings, deletions and changes of page, instead of a rule for each.
 */

/** What can be pressed. */
const PRESSED =
  'a[href], button:enabled, input:is([type=checkbox], [type=radio]):enabled, summary, [tabindex]:not([tabindex="-1"])'
/** And what can be typed into: nobody is put there unasked, where Ctrl + Z is the field's own. */
const TYPED = 'input, textarea, select'
const OVER_PAGE = '[role=dialog], [role=alertdialog], [role=menu], [role=listbox]'

/** An element of the way from the focus to the page, and which child of it came next on that way. */
interface Step {
  parent: Element
  index: number
}

interface Focused {
  element: Element
  way: Step[]
}

/** What is over the page gives the focus back by itself where it can, a moment after it has closed. */
const SETTLED_MS = 60
/** What is only hidden, as a page is whose next part is on the way, comes back within so long, or its neighbour takes over. */
const HIDDEN_MS = 1000

function wayOf(element: Element): Step[] {
  const way: Step[] = []
  for (let child = element; child.parentElement; child = child.parentElement)
    way.push({
      parent: child.parentElement,
      index: [...child.parentElement.children].indexOf(child),
    })
  return way
}

const isShown = (element: Element): boolean =>
  element.getClientRects().length > 0 && element.closest('[inert]') === null

/** The first that can have the focus, in an element or it itself. */
const firstIn = (element: Element): HTMLElement | undefined =>
  [element, ...element.querySelectorAll(PRESSED)].find(
    (each): each is HTMLElement =>
      each instanceof HTMLElement && each.matches(PRESSED) && isShown(each),
  )

/** What stands where something stood: what came in its place, else what is before it, else the page's content. */
function neighbour(way: readonly Step[]): HTMLElement | undefined {
  for (const { parent, index } of way) {
    if (!parent.isConnected || !isShown(parent)) continue
    if (parent === document.body || parent.id === 'root') break
    const after = [...parent.children].slice(index)
    const before = [...parent.children].slice(0, index).reverse()
    for (const child of [...after, ...before]) {
      const found = firstIn(child)
      if (found) return found
    }
  }
  const main = document.querySelector('main')
  main?.setAttribute('tabindex', '-1')
  return main ?? undefined
}

/**
 * Begins to keep the focus.
 *
 * @returns ends it
 */
export function keepFocus(): () => void {
  /** Of what has the focus, or had it until it went; null where the operator took it away. */
  let last: Focused | null = null
  /** The same of the page itself, for when what is over it goes. */
  let onPage: Focused | null = null
  /** The operator left it, as by Escape; not so what is hidden for a moment. */
  let isLeft = false
  let timer: ReturnType<typeof setTimeout> | undefined

  const remember = ({ target }: FocusEvent) => {
    if (!(target instanceof Element) || target === document.body) return
    last = { element: target, way: wayOf(target) }
    isLeft = false
    if (!target.closest(OVER_PAGE)) onPage = last
  }
  // A press beside everything takes the focus away on purpose.
  const pressed = ({ target }: PointerEvent) => {
    if (target instanceof Element && !target.closest(`${PRESSED}, ${TYPED}, label`)) last = null
  }
  // Without a look at the layout while something has the focus, since it is checked at every change of the page.
  // A form that is being sent disables its button for a moment and looks after it itself: Enter must press nothing else.
  const isGone = (element: Element): boolean =>
    !element.isConnected || (element.matches(':disabled') && element.closest('form') === null)
  const usable = (element: Element): boolean => !isGone(element) && isShown(element)
  const isLost = (): boolean =>
    document.activeElement === document.body || document.activeElement === null
  const settle = () => {
    if (!isLost() || !last || (isLeft && !isGone(last.element))) return
    const over = last.element.closest(OVER_PAGE) !== null
    const from = over && onPage ? onPage : last
    const next = usable(from.element) ? (from.element as HTMLElement) : neighbour(from.way)
    // Whoever works by hand looks where they pressed.
    next?.focus({ preventScroll: true })
    // A page that is only just coming may have nothing yet that takes it: its next change is looked at again.
  }
  const changed = () => {
    if (!last || !(isGone(last.element) || (isLost() && !isLeft))) return
    clearTimeout(timer)
    const isHidden = !isGone(last.element) && !isShown(last.element)
    timer = setTimeout(settle, isHidden ? HIDDEN_MS : SETTLED_MS)
  }
  const left = ({ target, relatedTarget }: FocusEvent) => {
    if (relatedTarget === null && target instanceof Element) isLeft = usable(target)
  }
  const observer = new MutationObserver(changed)
  observer.observe(document.body, {
    subtree: true,
    childList: true,
    attributes: true,
    attributeFilter: ['disabled', 'hidden', 'inert'],
  })
  document.addEventListener('focusin', remember)
  document.addEventListener('focusout', left)
  document.addEventListener('pointerdown', pressed)
  return () => {
    observer.disconnect()
    clearTimeout(timer)
    document.removeEventListener('focusin', remember)
    document.removeEventListener('focusout', left)
    document.removeEventListener('pointerdown', pressed)
  }
}
