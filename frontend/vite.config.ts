import { fileURLToPath } from "node:url";
import tailwind from "@tailwindcss/vite";
import vue from "@vitejs/plugin-vue";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [vue(), tailwind()],
  resolve: { alias: { "@": fileURLToPath(new URL("./src", import.meta.url)) } },
  build: { target: "es2022", chunkSizeWarningLimit: 400 },
  server: { proxy: { "/api": "http://127.0.0.1:8077" } },
});
