import optimizeLocales from '@react-aria/optimize-locales-plugin';
import { reactRouter } from '@react-router/dev/vite';
import { defineConfig } from 'vite';

export default defineConfig(({ isSsrBuild }) => ({
  plugins: [reactRouter(), { ...optimizeLocales.vite({ locales: ['en-US'] }), enforce: 'pre' }],
  resolve: { tsconfigPaths: true },
  oxc: { plugins: { styledComponents: { ssr: true } } },
  worker: { format: 'es' },
  optimizeDeps: { entries: ['app/**/*.{ts,tsx}'] },
  build: {
    assetsInlineLimit: 0,
    // A page asks for a dozen files, not for eighty: what most pages share travels together.
    ...(isSsrBuild
      ? {}
      : {
          rollupOptions: {
            output: {
              codeSplitting: {
                groups: [
                  { name: 'packages', test: /\/node_modules\//, minShareCount: 4, priority: 3 },
                  { name: 'core', test: /\/core\//, minShareCount: 4, priority: 2 },
                  { name: 'shared', test: /\/app\/(ui|parts|build|storage)\//, minShareCount: 4, priority: 1 },
                ],
              },
            },
          },
        }),
  },
}));
