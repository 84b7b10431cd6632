import path from 'node:path';
import optimizeLocales from '@react-aria/optimize-locales-plugin';
import { reactRouter } from '@react-router/dev/vite';
import { defineConfig } from 'vite';

/** What a chunk may ask of the modules it is made of. */
interface Chunking {
  getModuleInfo(id: string): { readonly importedIds: readonly string[] } | null;
}

const PACKAGES = /\/node_modules\//;
const OURS = /\/(?:core|app\/(?:ui|parts|build|storage))\//;

/** Modules of the first page: the document, the garage, and what starts them. */
const FIRST = ['root', 'entry.client', 'routes/garage'].map((name) => path.resolve(`app/${name}.tsx`));
/** A route as the browser gets it, without what only the server does. */
const AS_SENT = '?__react-router-build-client-route';

/** Modules that are needed before anything is opened: what the first page imports at once, and what that imports. */
function firstModules(chunking: Chunking): ReadonlySet<string> {
  const found = new Set<string>();
  const ahead = FIRST.flatMap((id) => [`${id}${AS_SENT}`, id]);
  for (let id = ahead.pop(); id !== undefined; id = ahead.pop()) {
    if (found.has(id)) continue;
    const known = chunking.getModuleInfo(id);
    if (!known) continue;
    found.add(id);
    ahead.push(...known.importedIds);
  }
  return found;
}

export default defineConfig(({ isSsrBuild }) => {
  let first: ReadonlySet<string> | null = null;
  /** What the first page needs travels by itself, so that it does not wait for what is needed later. */
  const early = (name: string) => (id: string, chunking: Chunking) => {
    first ??= firstModules(chunking);
    return first.has(id) ? name : null;
  };
  return {
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
                    { name: early('packages-first'), test: PACKAGES, priority: 6 },
                    { name: early('first'), test: OURS, priority: 5 },
                    { name: 'packages', test: PACKAGES, minShareCount: 4, priority: 3 },
                    { name: 'core', test: /\/core\//, minShareCount: 4, priority: 2 },
                    { name: 'shared', test: /\/app\/(ui|parts|build|storage)\//, minShareCount: 4, priority: 1 },
                  ],
                },
              },
            },
          }),
    },
  };
});
