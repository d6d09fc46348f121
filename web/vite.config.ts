import babel from "@rolldown/plugin-babel";
import react, { reactCompilerPreset } from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  // The compiler keeps what a render made: a key renders anew what reads what it changed, and nothing else.
  plugins: [react(), babel({ presets: [reactCompilerPreset()] })],
  build: {
    target: "es2023",
    // Fonts stay files of their own: the content security policy allows no data: fonts.
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
  },
  server: { proxy: { "/api": "http://127.0.0.1:7420" } },
});
