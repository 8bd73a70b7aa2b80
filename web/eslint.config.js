import js from "@eslint/js";
import hooks from "eslint-plugin-react-hooks";
import globals from "globals";
import ts from "typescript-eslint";

export default ts.config(
  { ignores: ["dist", "generated", "test-results", "src/api/schema.gen.ts"] },
  js.configs.recommended,
  ...ts.configs.strict,
  {
    files: ["**/*.{ts,tsx}"],
    languageOptions: { globals: { ...globals.browser, ...globals.node } },
    rules: {
      complexity: ["error", 14],
      "max-lines-per-function": ["error", { max: 110, skipBlankLines: true, skipComments: true }],
    },
  },
  // of what React draws: these compile each file to look at it
  {
    files: ["src/**"],
    ignores: ["**/*.test.{ts,tsx}"],
    plugins: { "react-hooks": hooks },
    rules: hooks.configs.recommended.rules,
  },
  { files: ["**/*.test.{ts,tsx}", "e2e/**"], rules: { "max-lines-per-function": "off" } },
);
