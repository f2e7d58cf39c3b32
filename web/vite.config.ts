import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";
import { VitePWA } from "vite-plugin-pwa";

/** The faces of the first screen; the others are fetched when a letter asks for them. */
const FIRST_FONTS = /(bricolage-grotesque-latin-opsz|atkinson-hyperlegible-next-latin-wght)-normal/;

/** Fonts are found only after the styles were read, unless the page names them. */
function preloadFonts(): Plugin {
  return {
    name: "preload-fonts",
    transformIndexHtml(_, context) {
      const files = Object.keys(context.bundle ?? {});
      return files
        .filter((file) => FIRST_FONTS.test(file))
        .map((file) => ({
          tag: "link",
          attrs: {
            rel: "preload",
            href: `/${file}`,
            as: "font",
            type: "font/woff2",
            crossorigin: "",
          },
          injectTo: "head" as const,
        }));
    },
  };
}

/**
 * Tells `public/early.js` which scripts each page needs, so that they are fetched along with the
 * first one and not after it has run.
 */
function namePageScripts(): Plugin {
  return {
    name: "name-page-scripts",
    transformIndexHtml: {
      order: "post",
      handler(_, context) {
        const bundle = context.bundle ?? {};
        const needs = (file: string, found: Set<string>) => {
          const chunk = bundle[file];
          if (found.has(file) || chunk?.type !== "chunk" || chunk.isEntry) return found;
          found.add(file);
          for (const other of chunk.imports) needs(other, found);
          return found;
        };
        const pages: Record<string, string[]> = {};
        for (const [file, chunk] of Object.entries(bundle)) {
          const page = chunk.type === "chunk" && /^(\w+)Page$/.exec(chunk.name)?.[1];
          if (page) pages[page.toLowerCase()] = [...needs(file, new Set())];
        }
        return [
          {
            tag: "script",
            attrs: { type: "application/json", id: "page-scripts" },
            children: JSON.stringify(pages),
            injectTo: "head-prepend",
          },
        ];
      },
    },
  };
}

/**
 * The shell, its scripts and its fonts on the device. The document itself is asked of the server
 * first, so that no old page meets a new server; answers of the API are never kept here.
 */
const onTheDevice = VitePWA({
  injectRegister: false,
  registerType: "autoUpdate",
  manifest: {
    name: "Odd Kettle",
    short_name: "Odd Kettle",
    description: "Will the battery box last, what holds it back, and what to do about it.",
    start_url: "/",
    display: "standalone",
    background_color: "#f6efe1",
    theme_color: "#1b3a57",
    icons: [
      { src: "/icon-192.png", sizes: "192x192", type: "image/png" },
      { src: "/icon-512.png", sizes: "512x512", type: "image/png" },
      { src: "/icon-512.png", sizes: "512x512", type: "image/png", purpose: "maskable" },
    ],
  },
  workbox: {
    globPatterns: ["**/*.{js,css,html,svg,png,woff2,webmanifest}"],
    dontCacheBustURLsMatching: /^assets\//,
    skipWaiting: true,
    clientsClaim: true,
    cleanupOutdatedCaches: true,
    navigateFallback: null,
    runtimeCaching: [
      {
        urlPattern: ({ request, url }) =>
          request.mode === "navigate" && !url.pathname.startsWith("/api/"),
        // Every page is the same document, and the worker has it with the scripts that it names: one
        // kept by itself would name those of an older version, which are gone after an upgrade.
        handler: "NetworkFirst",
        options: {
          networkTimeoutSeconds: 4,
          plugins: [{ cacheWillUpdate: async () => null }],
          precacheFallback: { fallbackURL: "/index.html" },
        },
      },
    ],
  },
});

export default defineConfig({
  plugins: [react(), tailwindcss(), preloadFonts(), namePageScripts(), onTheDevice],
  build: { target: "es2022" },
  server: { proxy: { "/api": "http://127.0.0.1:8765" } },
});
