import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [react()],
  // the server puts a nonce of its own in place of this one, page by page
  html: { cspNonce: "NONCE-OF-THIS-PAGE" },
  server: { proxy: { "/api": { target: "http://127.0.0.1:7411", changeOrigin: false } } },
});
