import { defineConfig } from "vite";

/** The one script of the reference's pages: small, and without what the console consists of. */
export default defineConfig({
  publicDir: false,
  build: {
    emptyOutDir: false,
    rollupOptions: { input: "src/site/site.ts", output: { entryFileNames: "site.js" } },
  },
});
