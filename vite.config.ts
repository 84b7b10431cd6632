import optimizeLocales from '@react-aria/optimize-locales-plugin';
import { reactRouter } from '@react-router/dev/vite';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [reactRouter(), { ...optimizeLocales.vite({ locales: ['en-US'] }), enforce: 'pre' }],
  resolve: { tsconfigPaths: true },
  oxc: { plugins: { styledComponents: { ssr: true } } },
  worker: { format: 'es' },
  optimizeDeps: { entries: ['app/**/*.{ts,tsx}'] },
  build: { assetsInlineLimit: 0 },
} as Parameters<typeof defineConfig>[0]);
