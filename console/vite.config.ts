import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [react()],
  build: {
    chunkSizeWarningLimit: 1500,
    rollupOptions: {
      output: {
        // parts that change seldom stay in a browser's cache while ours changes
        manualChunks: (id: string) =>
          id.includes("codemirror") || id.includes("@lezer") || id.includes("/yaml/") ? "editor" : id.includes("node_modules") ? "libraries" : undefined,
      },
    },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8480", "/desk": "http://127.0.0.1:8480" } },
});
