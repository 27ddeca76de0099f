/** Counts what React renders, as its own developer tools do: a hook that it tells of every commit. */
import type { Page } from '@playwright/test'

export interface Renders {
  commits: number
  /** By name, as it is built: names are shortened unless the build keeps them. */
  components: Record<string, number>
}

interface Fiber {
  tag: number
  flags: number
  type: { displayName?: string; name?: string; render?: { name?: string } } | null
  child: Fiber | null
  sibling: Fiber | null
  alternate: Fiber | null
}

interface Counting {
  renders: Renders
}

/** Must be called before the page is gone to. */
export const countRenders = async (page: Page): Promise<void> => {
  await page.addInitScript(() => {
    const counting: Counting = { renders: { commits: 0, components: {} } }
    /** Function and class components, forwarded references, memos: what a component can be. */
    const composite = new Set([0, 1, 11, 14, 15])
    const PERFORMED_WORK = 1
    const count = ({ tag, type }: Fiber) => {
      if (!composite.has(tag)) return
      const name = type?.displayName ?? type?.name ?? type?.render?.name ?? '?'
      counting.renders.components[name] = (counting.renders.components[name] ?? 0) + 1
    }
    const visit = (fiber: Fiber) => {
      const before = fiber.alternate
      if (!before || (fiber.flags & PERFORMED_WORK) !== 0) count(fiber)
      // The same children: nothing below it was looked at.
      if (before && before.child === fiber.child) return
      for (let child = fiber.child; child; child = child.sibling) visit(child)
    }
    Object.assign(window, {
      counting,
      __REACT_DEVTOOLS_GLOBAL_HOOK__: {
        isDisabled: false,
        supportsFiber: true,
        renderers: new Map(),
        inject: () => 1,
        checkDCE: () => undefined,
        onCommitFiberUnmount: () => undefined,
        onPostCommitFiberRoot: () => undefined,
        onCommitFiberRoot: (_: number, root: { current: Fiber }) => {
          counting.renders.commits++
          visit(root.current)
        },
      },
    })
  })
}

/** What was rendered since this was asked last. */
export const rendersSince = (page: Page): Promise<Renders> =>
  page.evaluate(() => {
    const { counting } = window as unknown as { counting: Counting }
    const { renders } = counting
    counting.renders = { commits: 0, components: {} }
    return renders
  })
