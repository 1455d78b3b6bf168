import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

// `./dev` says where the service listens that answers behind the development server.
const service = process.env.STEADY_TIDE_SERVICE;

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: { assetsInlineLimit: 0 },
  server: { proxy: service ? { "/api": service } : undefined },
});
