import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";

/** The most characters of a script: what somebody waits for who comes for the first time. */
const MOST = 400_000;

const bounded: Plugin = {
  name: "bounded",
  generateBundle(_, bundle) {
    for (const part of Object.values(bundle)) {
      if (part.type === "chunk" && part.code.length > MOST) {
        this.error(`${part.fileName} has ${part.code.length} characters; ${MOST} are the most. Fetch a part later.`);
      }
    }
  },
};

export default defineConfig({
  plugins: [react(), tailwindcss(), bounded],
  server: { proxy: { "/api": "http://127.0.0.1:8480", "/help": "http://127.0.0.1:8480" } },
  build: { chunkSizeWarningLimit: MOST / 1000 },
});
