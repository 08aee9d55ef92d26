import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { VitePWA } from "vite-plugin-pwa";

/** What a phone keeps, so that the field book opens where there is no network. */
const offline = VitePWA({
  injectRegister: false,
  registerType: "autoUpdate",
  manifest: {
    name: "Open Furrow",
    short_name: "Furrow",
    description: "Planner and field book for ground-mounted solar arrays",
    start_url: "/",
    display: "standalone",
    background_color: "#f8f5ec",
    theme_color: "#f6f2e8",
    icons: [192, 512].map((size) => ({
      src: `/icon-${size}.png`,
      sizes: `${size}x${size}`,
      type: "image/png",
      purpose: "any maskable",
    })),
  },
  workbox: {
    globPatterns: ["**/*.{js,css,html,svg,png,woff2}"],
    maximumFileSizeToCacheInBytes: 6_000_000,
    skipWaiting: true,
    clientsClaim: true,
    cleanupOutdatedCaches: true,
    // The page comes from the server while there is one: what it talks to is as new as it is.
    navigateFallback: null,
    runtimeCaching: [
      {
        urlPattern: ({ request, url }) => request.mode === "navigate" && !url.pathname.startsWith("/api/"),
        handler: "NetworkFirst",
        options: { cacheName: "page", networkTimeoutSeconds: 4, precacheFallback: { fallbackURL: "index.html" } },
      },
    ],
  },
});

export default defineConfig({
  plugins: [react(), tailwindcss(), offline],
  server: { proxy: { "/api": "http://127.0.0.1:8321" } },
});
