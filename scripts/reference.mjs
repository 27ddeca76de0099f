// `npm run reference`: the reference of the core, made from its comments into core/reference; every link in it is followed.
// The server shows it at /docs/core.
import { existsSync, readFileSync, readdirSync, writeFileSync } from 'node:fs'
import { dirname, join, relative } from 'node:path'
import { root, run } from './ready.mjs'

const folder = join(root, 'core/reference')
run('npx', ['typedoc', '--options', 'core/typedoc.json', '--logLevel', 'Warn'])

// The content policy of the server takes no script from within a page: the one there is gets a file.
const begin = 'assets/begin.js'
writeFileSync(
  join(folder, begin),
  `document.documentElement.dataset.theme = localStorage.getItem('tsd-theme') || 'os'\n`,
)
const pages = readdirSync(folder, { recursive: true, withFileTypes: true })
  .filter((entry) => entry.isFile() && entry.name.endsWith('.html'))
  .map((entry) => join(entry.parentPath, entry.name))
for (const page of pages) {
  const to = relative(dirname(page), join(folder, begin))
  const text = readFileSync(page, 'utf8')
  writeFileSync(page, text.replace(/<script>[^<]*<\/script>/g, `<script src="${to}"></script>`))
}

/** @type {Map<string, Set<string>>} */
const anchors = new Map()
const anchorsOf = (page) => {
  const known = anchors.get(page) ?? new Set()
  if (!anchors.has(page)) {
    for (const [, id] of readFileSync(page, 'utf8').matchAll(/\sid="([^"]+)"/g)) known.add(id)
    anchors.set(page, known)
  }
  return known
}
const broken = []
let followed = 0
for (const page of pages)
  for (const [, link] of readFileSync(page, 'utf8').matchAll(/\shref="([^"]+)"/g)) {
    if (/^[a-z]+:/.test(link)) continue
    followed++
    const [path, anchor] = link.split('#')
    const to = path === '' ? page : join(dirname(page), decodeURIComponent(path))
    if (!existsSync(to)) broken.push(`${relative(folder, page)}: ${link}`)
    else if (anchor && to.endsWith('.html') && !anchorsOf(to).has(decodeURIComponent(anchor)))
      broken.push(`${relative(folder, page)}: ${link}`)
  }
if (broken.length > 0 || pages.length < 50) {
  console.error(broken.slice(0, 30).join('\n'))
  throw new Error(`${broken.length} links lead nowhere, on ${pages.length} pages.`)
}
console.log(`${pages.length} pages, ${followed} links, all of them lead somewhere`)
