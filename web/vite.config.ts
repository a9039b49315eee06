import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';
import { VitePWA } from 'vite-plugin-pwa';

export default defineConfig({
  plugins: [
    react(),
    tailwindcss(),
    // The shell is kept on the device, so that a reload without a network still opens the Card.
    VitePWA({
      registerType: 'autoUpdate',
      injectRegister: false,
      manifest: {
        name: 'Walkdown',
        short_name: 'Walkdown',
        display: 'standalone',
        background_color: '#F6F4EE',
        theme_color: '#F6F4EE',
        start_url: '/',
        icons: [{ src: '/mark.svg', sizes: 'any', type: 'image/svg+xml' }],
      },
      workbox: {
        globPatterns: ['**/*.{js,css,html,svg,woff2}'],
        navigateFallback: '/index.html',
        navigateFallbackDenylist: [/^\/api\//, /^\/healthz/],
        // A drawing is named by its content: the one that was seen is the one that is.
        runtimeCaching: [
          {
            // A picture may be erased: asked for anew as long as there is a network, and what was taken along where there is none.
            urlPattern: /\/api\/cards\/[^/]+\/pictures\/[^/]+\.jpg$/,
            handler: async ({ request }) => {
              try {
                return await fetch(request);
              } catch {
                return (await (await caches.open('pictures')).match(request)) ?? Response.error();
              }
            },
          },
          {
            urlPattern: /\/api\/jobs\/[^/]+\/plan\/[0-9a-f]{64}$/,
            handler: 'CacheFirst',
            options: { cacheName: 'plans', expiration: { maxEntries: 20 } },
          },
        ],
      },
    }),
  ],
  test: { environment: 'node', include: ['src/**/*.test.ts'], setupFiles: ['src/browser.setup.ts'] },
  build: {
    outDir: 'dist',
    target: 'es2022',
    chunkSizeWarningLimit: 900,
    // The first script names every other one: seven letters of a hash tell them apart as well as eight.
    rollupOptions: {
      output: {
        chunkFileNames: 'assets/[name]-[hash:7].js',
        // What every page stands on goes in one piece.
        codeSplitting: { groups: [{ name: 'base', test: /node_modules\/(react|react-dom|scheduler|@tanstack)\// }] },
      },
    },
  },
  server: { proxy: { '/api': 'http://localhost:4680' } },
});
