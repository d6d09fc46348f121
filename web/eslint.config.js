import js from "@eslint/js";
import jsxA11y from "eslint-plugin-jsx-a11y";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

/** The rooms, the lowest first: each imports only from those before it. */
const ROOMS = [
  "api",
  "ui",
  "figure",
  "fit",
  "board",
  "tape",
  "cards",
  "judge",
  "protocol",
  "film",
  "takes",
  "stations",
  "session",
  "riders",
  "between",
  "handout",
  "next",
];
const ladder = ROOMS.map((room, at) => ({
  files: [`src/${room}/**`],
  rules: {
    "no-restricted-imports": [
      "error",
      {
        patterns: [
          {
            regex: `^(\\.\\./)+(${ROOMS.slice(at + 1).join("|") || "none"})(/|$)`,
            message: `${room} stands below it.`,
          },
        ],
      },
    ],
  },
}));

export default tseslint.config(
  { ignores: ["dist", "src/api/schema.d.ts", "compress.mjs", "eslint.config.js"] },
  js.configs.recommended,
  tseslint.configs.strictTypeChecked,
  jsxA11y.flatConfigs.recommended,
  hooks.configs.flat["recommended-latest"],
  {
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      "@typescript-eslint/restrict-template-expressions": ["error", { allowNumber: true }],
      "@typescript-eslint/no-confusing-void-expression": ["error", { ignoreArrowShorthand: true }],
      "max-lines-per-function": ["error", { max: 200, skipComments: true }],
    },
  },
  { files: ["src/**/*.test.ts"], rules: { "max-lines-per-function": "off" } },
  ...ladder,
);
