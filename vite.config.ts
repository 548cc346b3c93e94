import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { preloadFonts } from './scripts/lib/preloadFonts.ts';

const server = process.env.MARMOT_SERVER ?? 'http://localhost:4270';

export default defineConfig({
  root: 'src/web',
  plugins: [react(), tailwindcss(), preloadFonts()],
  build: {
    outDir: '../../dist/web',
    emptyOutDir: true,
    manifest: true,
    // Fonts stay files of their own, so that they can be preloaded and kept.
    assetsInlineLimit: 0,
    // Schemas say what they are and do nothing: those of answers, which the server alone holds, are left out.
    rolldownOptions: { treeshake: { manualPureFunctions: ['z', 'defineRoutes', 'file'] } },
  },
  worker: { format: 'es' },
  server: { port: 4271, proxy: { '/api': { target: server, changeOrigin: false } } },
});
