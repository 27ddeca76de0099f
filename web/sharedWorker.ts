/** A worker that shares its modules with the page: `?shared` after its file gives its address. */
import { relative } from 'node:path'
import type { Plugin } from 'vite'

const SHARED = '?shared'
const WORKER = '/worker.ts'
const PAGE_ONLY =
  /[\\/](react|react-dom|react-router|sonner|@tanstack|@radix-ui|echarts)[\\/]|\.tsx$|[\\/]web[\\/]src[\\/](editor|platform|shell|spine|ui)[\\/]/

/**
 * A worker built on its own would bring the whole core a second time. As an entry among the others it loads what the page
 * has loaded already; nothing that it imports may touch the document.
 */
export function sharedWorker(): Plugin {
  let building = false
  let root = ''
  return {
    name: 'shared-worker',
    enforce: 'pre',
    configResolved: (config) => {
      building = config.command === 'build'
      root = config.root
    },
    async resolveId(source, importer) {
      if (!source.endsWith(SHARED)) return null
      const file = await this.resolve(source.slice(0, -SHARED.length), importer)
      return file && file.id + SHARED
    },
    load(id) {
      if (!id.endsWith(SHARED)) return null
      const file = id.slice(0, -SHARED.length)
      if (!building) return `export default '/${relative(root, file)}'`
      const chunk = this.emitFile({ type: 'chunk', id: file, name: 'worker' })
      return `export default import.meta.ROLLUP_FILE_URL_${chunk}`
    },
    generateBundle(_options, bundle) {
      const chunks = Object.values(bundle).filter((file) => file.type === 'chunk')
      const worker = chunks.find(({ facadeModuleId }) => facadeModuleId?.endsWith(WORKER))
      if (!worker) return
      // Each by the way on which it is reached first.
      const loaded = new Map([[worker.fileName, worker.name]])
      for (const [name, way] of loaded) {
        const { imports, dynamicImports, moduleIds } = chunks.find(
          (chunk) => chunk.fileName === name,
        )!
        const strange = moduleIds.find((id) => PAGE_ONLY.test(id))
        if (strange)
          this.error(
            `The worker would load ${relative(root, strange)}, which is the page's: ${way}. See the groups in vite.config.ts.`,
          )
        for (const next of [...imports, ...dynamicImports])
          if (!loaded.has(next)) loaded.set(next, `${way} → ${next}`)
      }
    },
  }
}
