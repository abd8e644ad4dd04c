import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';

export default defineConfig({
  root: import.meta.dirname,
  plugins: [
    // A line break between two inline elements is a space, as HTML has it and as the formatter assumes.
    vue({ template: { compilerOptions: { whitespace: 'preserve' } } }),
    // The app shell opens with no network; what the API says is never cached here.
    VitePWA({
      // A newer version waits until somebody takes it up: an open evaluation never loses the files it runs
      // on.
      registerType: 'prompt',
      injectRegister: false,
      manifest: {
        name: 'Rounds',
        short_name: 'Rounds',
        description: 'Walk-round assessment and certification of machine operators',
        start_url: '/',
        display: 'standalone',
        background_color: '#f3eee4',
        theme_color: '#12403d',
        icons: [{ src: '/ring.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'any' }],
      },
      workbox: {
        // The first visit already opens without a network afterwards; a newer version claims nothing before
        // it is taken up.
        clientsClaim: true,
        skipWaiting: false,
        globPatterns: ['**/*.{js,css,html,svg,woff2}'],
        globIgnores: ['**/*-ext-*.woff2'],
        navigateFallback: '/index.html',
        navigateFallbackDenylist: [/^\/api\//, /^\/healthz/, /^\/metrics/],
      },
    }),
  ],
  build: {
    outDir: 'dist',
    emptyOutDir: true,
    target: 'es2022',
    chunkSizeWarningLimit: 700,
    reportCompressedSize: false,
  },
  server: { proxy: { '/api': 'http://127.0.0.1:4600' } },
});
