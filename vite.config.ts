import { reactRouter } from '@react-router/dev/vite';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [reactRouter()],
  worker: { format: 'es' },
  build: { target: 'es2022', chunkSizeWarningLimit: 900, assetsInlineLimit: 0, manifest: true },
  optimizeDeps: {
    entries: ['app/root.tsx', 'app/entry.client.tsx', 'app/routes/**/*.tsx', 'app/ui/**/*.tsx'],
    include: [
      '@emotion/react',
      '@emotion/styled',
      '@emotion/cache',
      '@mui/material',
      'echarts/core',
      'echarts/charts',
      'echarts/components',
      'echarts/renderers',
    ],
    exclude: ['pg'],
  },
});
