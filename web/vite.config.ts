import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  plugins: [react()],
  build: {
    outDir: 'target/classes/META-INF/resources',
    emptyOutDir: true,
  },
  server: { proxy: { '/api': process.env.EUTHYNA_URL ?? 'http://127.0.0.1:8080' } },
  preview: { proxy: { '/api': process.env.EUTHYNA_URL ?? 'http://127.0.0.1:8080' } },
  test: {
    environment: 'jsdom',
    // each file cleans up behind itself: a browser of its own for each would take four times as long
    isolate: false,
    include: ['src/**/*.test.ts', 'src/**/*.test.tsx'],
    // a busy machine is slow, not wrong
    testTimeout: 120_000,
    setupFiles: ['src/test/browser.ts', 'src/test/setup.ts'],
  },
});
