import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

const portal = process.env.VINE_URL ?? 'http://127.0.0.1:8420';

export default defineConfig({
  plugins: [react(), tailwindcss()],
  server: { proxy: { '/api': portal } },
  build: { sourcemap: false, reportCompressedSize: false },
});
