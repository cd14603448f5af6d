import js from "@eslint/js";
import hooks from "eslint-plugin-react-hooks";
import ts from "typescript-eslint";

/** Folders from the ground up: each imports only from those before it. */
const ORDER = ["api", "words", "forms", "charts", "part", "places", "shell"];
const oneWay = ORDER.slice(0, -1).map((folder, n) => ({
  files: [`src/${folder}/**/*.{ts,tsx}`],
  rules: {
    "no-restricted-imports": [
      "error",
      {
        patterns: [
          { group: ORDER.slice(n + 1).map((above) => `**/${above}/*`), message: "A folder above this one." },
        ],
      },
    ],
  },
}));

export default ts.config(
  { ignores: ["dist", "src/api/schema.ts"] },
  js.configs.recommended,
  ...ts.configs.recommended,
  hooks.configs.flat.recommended,
  {
    files: ["src/**/*.{ts,tsx}"],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      "@typescript-eslint/no-floating-promises": "error",
      "@typescript-eslint/no-misused-promises": "error",
      "@typescript-eslint/await-thenable": "error",
      "@typescript-eslint/no-unnecessary-type-assertion": "error",
    },
  },
  {
    files: ["src/**/*.tsx"],
    ignores: ["src/**/*.test.tsx"],
    rules: {
      "max-lines-per-function": ["error", { max: 150, skipBlankLines: true, skipComments: true }],
      "no-restricted-syntax": [
        "error",
        {
          selector:
            "Literal[value=/text-\\[[0-9.]+(rem|px)\\]/], TemplateElement[value.raw=/text-\\[[0-9.]+(rem|px)\\]/]",
          message: "Sizes of words come from the theme.",
        },
      ],
    },
  },
  ...oneWay,
);
