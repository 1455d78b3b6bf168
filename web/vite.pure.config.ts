import { defineConfig } from "vite";

// What modules expect of a browser when they are loaded; nothing of it is called.
const BROWSER = 'globalThis.window ??= { location: { origin: "http://127.0.0.1" } };';

// The pure parts of the front end for the tests.
export default defineConfig({
  publicDir: false,
  ssr: { noExternal: true },
  build: {
    ssr: "pure/entry.ts",
    outDir: "dist-pure",
    rollupOptions: { output: { entryFileNames: "entry.mjs", banner: BROWSER } },
  },
});
