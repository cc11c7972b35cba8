import { defineConfig } from 'vitest/config';

// The interface's pure parts; whole screens are driven in a browser (tests/Browser).
export default defineConfig({
  resolve: { alias: { '@': new URL('./resources/ts', import.meta.url).pathname } },
  test: { include: ['tests/Front/**/*.test.ts'], env: { TZ: 'UTC' } },
});
