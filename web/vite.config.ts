import { readdirSync, readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
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

export default defineConfig({
  plugins: [vue(), elementPlus({}), fontLicences],
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  build: { target: 'es2022', assetsInlineLimit: 0, chunkSizeWarningLimit: 700 },
  server: { proxy: { '/api': 'http://127.0.0.1:5178' } },
})
