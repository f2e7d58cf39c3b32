import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

const ON_PAGES = "src/**/*.page.test.tsx";

export default defineConfig({
  test: {
    projects: [
      {
        plugins: [react()],
        test: { name: "units", include: ["src/**/*.test.{ts,tsx}"], exclude: [ON_PAGES] },
      },
      {
        oxc: { jsx: { runtime: "automatic", development: false } },
        test: {
          // Real components on real documents: see src/testing/page.tsx.
          name: "pages",
          include: [ON_PAGES],
          environment: "jsdom",
          globalSetup: ["engine.mjs"],
          setupFiles: ["src/testing/browser.ts"],
          // A busy machine may take long over an answer; only a test that fails waits so long.
          testTimeout: 180_000,
          hookTimeout: 180_000,
        },
      },
    ],
  },
});
