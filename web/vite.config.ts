import { readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { brotliCompressSync, gzipSync } from 'node:zlib'
import vue from '@vitejs/plugin-vue'
import elementPlus from 'unplugin-element-plus/vite'
import { defineConfig, type Plugin } from 'vite'

const FONTS = fileURLToPath(new URL('./node_modules/@fontsource-variable/', import.meta.url))

/** The licence of each font lies beside its files, as the licence asks. */
const fontLicences: Plugin = {
  name: 'font-licences',
  generateBundle() {
    for (const font of readdirSync(FONTS)) {
      const source = readFileSync(`${FONTS}${font}/LICENSE`, 'utf8')
      this.emitFile({ type: 'asset', fileName: `assets/${font}-LICENSE.txt`, source })
    }
  },
}

const COMPRESSED = /\.(js|css|html|svg|json|webmanifest)$/
const WORTH_IT_BYTES = 1000

/** Beside each file of words its compressed forms, for browsers across the air. */
const compressedForms: Plugin = {
  name: 'compressed-forms',
  writeBundle({ dir }, bundle) {
    for (const name of Object.keys(bundle).filter((name) => COMPRESSED.test(name))) {
      const path = `${dir}/${name}`
      const data = readFileSync(path)
      if (data.length < WORTH_IT_BYTES) continue
      writeFileSync(`${path}.br`, brotliCompressSync(data))
      writeFileSync(`${path}.gz`, gzipSync(data, { level: 9 }))
    }
  },
}

/** What a browser keeps to open the desk without its server. */
const shellList: Plugin = {
  name: 'shell-list',
  generateBundle(_, bundle) {
    const files = Object.keys(bundle).filter((name) => /\.(js|css|woff2)$/.test(name))
    const more = ['icon-192.png', 'desk.webmanifest']
    this.emitFile({
      type: 'asset',
      fileName: 'shell.json',
      source: JSON.stringify([...files, ...more].map((name) => `/${name}`).sort()),
    })
  },
}

export default defineConfig({
  plugins: [vue(), elementPlus({}), fontLicences, shellList, compressedForms],
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  build: { target: 'es2022', assetsInlineLimit: 0, chunkSizeWarningLimit: 700 },
  server: { proxy: { '/api': 'http://127.0.0.1:5178' } },
})
