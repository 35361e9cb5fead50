import { fileURLToPath } from "node:url";
import optimizeLocales from "@react-aria/optimize-locales-plugin";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

function folder(name: string): string {
  return fileURLToPath(new URL(name, import.meta.url));
}

export default defineConfig({
  plugins: [
    react(),
    // The page speaks English alone: what its controls say in others is left out.
    { ...optimizeLocales.vite({ locales: ["en-US"] }), enforce: "pre" },
  ],
  // The server replaces the mark with a nonce of its own for every page it serves.
  html: { cspNonce: "%NONCE%" },
  resolve: { alias: { "@": folder("./src"), "@generated": folder("./generated") } },
  build: { target: "es2023", assetsInlineLimit: 0, chunkSizeWarningLimit: 1200 },
  test: {
    // Plain rules need no page, which takes longer to make than they to be tested.
    projects: [
      {
        extends: true,
        test: { name: "rules", environment: "node", include: ["src/**/*.test.ts"] },
      },
      {
        extends: true,
        test: {
          name: "page",
          environment: "jsdom",
          include: ["src/**/*.test.tsx"],
          setupFiles: ["src/testing/setup.ts"],
        },
      },
    ],
    // A busy machine is slow, and no test measures time.
    testTimeout: 30_000,
  },
});
