import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

const server = process.env.DAKIKA_PUBLIC_ADDRESS ?? "http://127.0.0.1:8000";

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: { target: "es2023", sourcemap: false, chunkSizeWarningLimit: 700 },
  server: { proxy: { "/api": server, "/l": server } },
  test: { environment: "node", include: ["src/**/*.test.{ts,tsx}"], setupFiles: ["src/testing/setup.ts"], testTimeout: 180_000 },
});
