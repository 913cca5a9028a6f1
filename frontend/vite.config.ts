import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { VitePWA } from "vite-plugin-pwa";

// What the bench needs when the network is away: the newest answer that this device has seen.
const AT_THE_BENCH =
  /\/api\/(access|shelf|studies(\/\d+(\/dye(\/protocol|\/notes)?|\/colours|\/revision)?)?|today(\/bench)?)(\?.*)?$/;

// What several parts share, in few files: a browser asks for six at a time, and dozens of small ones hold up the first grid.
// The page itself loads the first two; the grid, the panels and their controls come as parts.
const SHARED_CHUNKS = [
  {
    name: "base",
    test: /node_modules[\\/](react|react-dom|scheduler|@emotion|@tanstack[\\/](query-core|react-query)|openapi-fetch|@mui[\\/](system|styled-engine|utils|material[\\/](styles|utils|Box|Button|ButtonBase|CircularProgress|CssBaseline|useMediaQuery)))[\\/]/,
    priority: 2,
  },
  {
    name: "shared",
    test: /frontend[\\/]src[\\/](api|grid[\\/](?!swatch-picker|below-button)|settings|read[\\/]colours|dye[\\/]outbox|shell[\\/](counted|csv|dates|durations|place|said))/,
    minShareCount: 2,
    priority: 2,
  },
  { name: "controls", test: /node_modules[\\/]@mui[\\/]material/, minShareCount: 2 },
];

export default defineConfig({
  plugins: [
    react(),
    VitePWA({
      // A new version takes over at the next look; no page is loaded anew under somebody's hands.
      registerType: "prompt",
      includeManifestIcons: false,
      injectRegister: false,
      manifest: {
        name: "Zesty Grid",
        short_name: "Zesty Grid",
        description: "Test grids of natural dyes: plan, dye, read, fade, compare.",
        start_url: "/",
        display: "standalone",
        background_color: "#e9e9e9",
        theme_color: "#c9d433",
        icons: [{ src: "assets/sign.svg", sizes: "any", type: "image/svg+xml" }],
      },
      workbox: {
        skipWaiting: true,
        clientsClaim: true,
        globPatterns: ["**/*.{js,css,html,svg,woff2}"],
        maximumFileSizeToCacheInBytes: 4_000_000,
        navigateFallbackDenylist: [/^\/api\//],
        runtimeCaching: [
          {
            urlPattern: AT_THE_BENCH,
            handler: "NetworkFirst",
            options: {
              cacheName: "bench",
              networkTimeoutSeconds: 8,
              expiration: { maxEntries: 60 },
              cacheableResponse: { statuses: [200] },
            },
          },
        ],
      },
    }),
  ],
  build: {
    outDir: "../src/zesty_grid/web",
    emptyOutDir: true,
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 900,
    rolldownOptions: { output: { codeSplitting: { groups: SHARED_CHUNKS } } },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8750" } },
});
