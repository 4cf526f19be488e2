import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

const isOfTheEditor = (id: string) => id.includes("codemirror") || id.includes("@lezer");

export default defineConfig({
  plugins: [react()],
  build: {
    chunkSizeWarningLimit: 1500,
    rolldownOptions: {
      output: {
        // parts that change seldom stay in a browser's cache while ours changes; what both need is in the first, so that only pages with an
        // editor load the second
        codeSplitting: {
          groups: [
            { name: "libraries", test: (id: string) => id.includes("node_modules") && !isOfTheEditor(id), priority: 2 },
            { name: "editor", test: isOfTheEditor, priority: 1 },
          ],
        },
      },
    },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8480", "/desk": "http://127.0.0.1:8480" } },
});
