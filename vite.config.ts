import react from '@vitejs/plugin-react';
import tailwindcss from '@tailwindcss/vite';
import laravel from 'laravel-vite-plugin';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [laravel({ input: ['resources/ts/main.tsx'], refresh: true }), react(), tailwindcss()],
  resolve: { alias: { '@': new URL('./resources/ts', import.meta.url).pathname } },
  build: { chunkSizeWarningLimit: 1200 },
});
