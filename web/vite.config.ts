import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vite';

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

export default defineConfig({
  plugins: [withoutOwnStyles, react(), tailwind()],
  build: { target: 'es2023', assetsInlineLimit: 0, chunkSizeWarningLimit: 1200 },
  worker: { format: 'es' },
});
