import { defineConfig } from 'vitest/config'

export default defineConfig({
  // The tests stand beside the others of the project; what they import is found here.
  server: { fs: { allow: ['..'] } },
  resolve: { alias: { vitest: new URL('node_modules/vitest', import.meta.url).pathname } },
  test: { root: '..', include: ['tests/screen/**/*.test.ts'] },
})
