import { createSystem, defaultConfig, defineConfig } from "@chakra-ui/react";

const pair = (light: string, dark: string) => ({ value: { _light: light, _dark: dark } });

/** Every colour, size and space of Arroyo: a dry-country water course. */
export const system = createSystem(
  defaultConfig,
  defineConfig({
    globalCss: {
      html: { height: "100%" },
      body: { background: "paper", color: "ink", fontSize: "13px", lineHeight: "1.45", fontFamily: "body", height: "100%", overflow: "hidden" },
      "*": { fontVariantNumeric: "tabular-nums" },
      ":focus-visible": { outline: "2px solid", outlineColor: "water", outlineOffset: "1px" },
    },
    theme: {
      tokens: {
        fonts: {
          body: { value: "'IBM Plex Sans', sans-serif" },
          heading: { value: "'IBM Plex Sans', sans-serif" },
          mono: { value: "'IBM Plex Mono', monospace" },
        },
        radii: { small: { value: "3px" }, pill: { value: "999px" } },
      },
      semanticTokens: {
        colors: {
          paper: pair("#F6F2EA", "#1E1F20"),
          sheet: pair("#FDFBF7", "#262728"),
          ink: pair("#23262B", "#ECE7DD"),
          ink2: pair("#5C6268", "#A9ABA8"),
          line: pair("#DCD4C6", "#3C3D3D"),
          water: pair("#0E6B80", "#6FBCCB"),
          wash: pair("#DCEBED", "#1F3A40"),
          clay: pair("#A84726", "#E08A66"),
          claywash: pair("#F4E2D8", "#452B20"),
        },
      },
      textStyles: {
        figure: { value: { fontSize: "22px", fontWeight: "600", lineHeight: "1.15" } },
        head: { value: { fontSize: "11px", fontWeight: "600", letterSpacing: "0.06em", textTransform: "uppercase" } },
        title: { value: { fontSize: "15px", fontWeight: "600" } },
        small: { value: { fontSize: "12px" } },
      },
    },
  }),
);
