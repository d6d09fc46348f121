/** Colours, type and the few recipes of the house. Components name roles, never values. */
import { createSystem, defaultBaseConfig, defineConfig, defineRecipe } from "@chakra-ui/react";

const role = (day: string, night: string) => ({ value: { base: day, _dark: night } });

const button = defineRecipe({
  className: "button",
  base: {
    display: "inline-flex",
    alignItems: "center",
    justifyContent: "center",
    gap: "8px",
    minHeight: "40px",
    paddingInline: "14px",
    borderRadius: "4px",
    borderWidth: "1px",
    fontSize: "16px",
    fontWeight: "650",
    lineHeight: "1.2",
    cursor: "pointer",
    whiteSpace: "nowrap",
    _disabled: { opacity: 0.55, cursor: "not-allowed" },
    _focusVisible: { outline: "3px solid {colors.tide}", outlineOffset: "2px" },
  },
  variants: {
    variant: {
      solid: { background: "tide", color: "sheet", borderColor: "tide" },
      outline: { background: "sheet", color: "tide", borderColor: "tide" },
      plain: { background: "transparent", color: "tide", borderColor: "transparent", paddingInline: "6px" },
      subtle: {
        background: "sheet",
        color: "ink",
        borderColor: "soft",
        flex: 1,
        _pressed: { background: "ink", color: "sheet", borderColor: "ink" },
      },
    },
  },
  defaultVariants: { variant: "outline" },
});

const config = defineConfig({
  preflight: true,
  globalCss: {
    "html, body": {
      background: "paper",
      color: "ink",
      fontFamily: "body",
      fontSize: "16px",
      lineHeight: "1.4",
      fontVariantNumeric: "tabular-nums",
    },
    "h1, h2, h3": { fontWeight: "700", lineHeight: "1.2" },
    "a, summary, [tabindex]": { _focusVisible: { outline: "3px solid {colors.tide}", outlineOffset: "2px" } },
  },
  theme: {
    breakpoints: { sm: "480px", md: "768px", lg: "1024px" },
    tokens: {
      fonts: { body: { value: "'Atkinson Hyperlegible Next Variable', system-ui, sans-serif" } },
    },
    semanticTokens: {
      colors: {
        paper: role("#F5F4EE", "#151D22"),
        sheet: role("#FBFAF6", "#1C262C"),
        ink: role("#20303A", "#ECEAE2"),
        soft: role("#5B6B73", "#A3B1B8"),
        hairline: role("#C9CEC8", "#3B4A52"),
        tide: role("#1D5F6B", "#7CC3CF"),
        wash: role("#E3ECEB", "#22363C"),
        amber: role("#8F4A05", "#E9A45B"),
        brick: role("#A63A24", "#F08F7A"),
        skin: role("#E3D9CA", "#8B7F70"),
        cloth: role("#B8D0D0", "#4F7076"),
        shorts: role("#5E7C82", "#34525A"),
        far: role("#D9DFDC", "#33434A"),
        steel: role("#8B979B", "#6F7F86"),
      },
    },
    recipes: { button },
  },
});

export const system = createSystem(defaultBaseConfig, config);
