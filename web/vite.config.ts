import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { build, defineConfig, type Plugin, type Rolldown, type UserConfig } from 'vite';

/**
 * The toasts put a style element of theirs into the page, which the page's policy does not take; what is in it comes
 * with styles.css.
 */
const withoutOwnStyles: Plugin = {
  name: 'without-own-styles',
  transform: {
    filter: { id: /sonner[/\\]dist[/\\]index\.mjs$/ },
    handler(code) {
      const without = code.replace(/^__insertCSS\(.*\);?$/m, '');
      if (without === code) throw new Error('The toasts no longer put their styles in as they did');
      return { code: without, map: null };
    },
  },
};

type Chunks = Readonly<Record<string, Rolldown.OutputChunk | Rolldown.OutputAsset>>;

/** The chunk with a source file, and all that it waits for, through however many others. */
function waitedFor(chunks: Chunks, source: string): Rolldown.OutputChunk[] {
  const seen = new Map<string, Rolldown.OutputChunk>();
  const visit = (chunk: Rolldown.OutputChunk | Rolldown.OutputAsset | undefined) => {
    if (chunk?.type !== 'chunk' || seen.has(chunk.fileName)) return;
    seen.set(chunk.fileName, chunk);
    for (const next of chunk.imports) visit(chunks[next]);
  };
  const holds = (chunk: Rolldown.OutputChunk) =>
    [chunk.facadeModuleId, ...chunk.moduleIds].some((id) => id?.endsWith(source));
  visit(Object.values(chunks).find((chunk) => chunk.type === 'chunk' && holds(chunk)));
  if (seen.size === 0) throw new Error(`No chunk has ${source}`);
  return [...seen.values()];
}

/**
 * Left to itself the bundler makes some forty files of what a page waits for, most of them of a few lines, since each
 * part that is fetched later shares something else with it. A first build finds out what is waited for by every page
 * and by those of a shot; the second makes one file of each.
 */
async function fewFiles(config: UserConfig): Promise<Rolldown.CodeSplittingOptions> {
  const built = await build({
    ...config,
    configFile: false,
    root: import.meta.dirname,
    logLevel: 'silent',
    build: { ...config.build, write: false },
  });
  const { output } = Array.isArray(built) || !('output' in built) ? { output: [] } : built;
  const chunks = Object.fromEntries(output.map((file) => [file.fileName, file]));
  const modulesOf = (source: string) =>
    new Set(waitedFor(chunks, source).flatMap(({ moduleIds }) => moduleIds));
  const [first, shot] = [modulesOf('/index.html'), modulesOf('/shot-pages.ts')];
  const name = (id: string) => (first.has(id) ? 'first' : shot.has(id) ? 'shot' : null);
  return { includeDependenciesRecursively: false, groups: [{ name }] };
}

/**
 * A page for the addresses of shots that names, too, what those wait for: the browser fetches all of it at once, not the
 * one half when it has run the other.
 */
const shotPage: Plugin = {
  name: 'shot-page',
  generateBundle: {
    order: 'post',
    handler(_options, bundle) {
      const html = bundle['index.html'];
      if (html?.type !== 'asset') throw new Error('There is no page');
      const source = String(html.source);
      const links = waitedFor(bundle, '/shot-pages.ts')
        .filter(({ fileName }) => !source.includes(`/${fileName}"`))
        .map(({ fileName }) => `    <link rel="modulepreload" crossorigin href="/${fileName}">\n`);
      this.emitFile({
        type: 'asset',
        fileName: 'shot.html',
        source: source.replace('  </head>', `${links.join('')}  </head>`),
      });
    },
  },
};

const config: UserConfig = {
  plugins: [withoutOwnStyles, react(), tailwind(), shotPage],
  build: { target: 'es2023', assetsInlineLimit: 0, chunkSizeWarningLimit: 1200 },
  worker: { format: 'es' },
};

export default defineConfig(async () => ({
  ...config,
  build: { ...config.build, rolldownOptions: { output: { codeSplitting: await fewFiles(config) } } },
}));
