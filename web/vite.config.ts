import tailwind from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { appendFileSync, readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { defineConfig, type Plugin } from 'vite'
import { compression } from 'vite-plugin-compression2'
import { serviceWorker } from './serviceWorker/build.ts'

const api = `http://127.0.0.1:${process.env['SALTLINE_PORT'] ?? '4173'}`

const NOTICES = 'third-party-notices.md'

/** The font comes in by way of CSS, which the list of licences does not see. */
const fontLicence: Plugin = {
  name: 'font-licence',
  writeBundle: ({ dir }) =>
    appendFileSync(
      resolve(dir!, NOTICES),
      `\n## @fontsource/b612 (OFL-1.1)\n\n${readFileSync(resolve(import.meta.dirname, '../node_modules/@fontsource/b612/LICENSE'), 'utf8')}`,
    ),
}

/**
 * What is loaded together stays together: a page asks for a dozen files, not for sixty. What only one page or lens needs
 * stays with it.
 */
const groups = [
  {
    name: 'libraries',
    test: /node_modules[\\/](react|react-dom|scheduler|react-router|@tanstack|zod)[\\/]/,
  },
  {
    name: 'menus',
    test: /node_modules[\\/](@radix-ui|radix-ui|@floating-ui|aria-hidden|react-remove-scroll)/,
    minShareCount: 2,
  },
  { name: 'icons', test: /node_modules[\\/]lucide-react/ },
  { name: 'core', test: /[\\/](core|contract)[\\/]src[\\/]/, minShareCount: 3 },
  {
    name: 'shared',
    test: /[\\/]web[\\/]src[\\/](ui|model|platform|shell|editor|compute|spine)[\\/]/,
    minShareCount: 3,
  },
]

export default defineConfig({
  plugins: [
    react(),
    tailwind(),
    fontLicence,
    // Compressed once here, so that the server need not.
    compression({ algorithms: ['gzip', 'brotliCompress'], include: /\.(js|css|html|svg)$/ }),
    serviceWorker(),
  ],
  server: { host: '127.0.0.1', proxy: { '/api': { target: api } } },
  // Scripts find each other wherever a proxy shows them; the server writes into the page where that is.
  experimental: {
    renderBuiltUrl: (_file, { hostType }) => (hostType === 'html' ? undefined : { relative: true }),
  },
  build: {
    target: 'es2023',
    chunkSizeWarningLimit: 700,
    rolldownOptions: { output: { codeSplitting: { groups } } },
    // Licences of everything that the browser is sent.
    license: { fileName: NOTICES },
  },
  worker: { format: 'es' },
})
