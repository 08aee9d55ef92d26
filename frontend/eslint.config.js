import js from "@eslint/js";
import hooks from "eslint-plugin-react-hooks";
import globals from "globals";
import typescript from "typescript-eslint";

export default typescript.config(
  { ignores: ["dist", "src/api/schema.d.ts"] },
  js.configs.recommended,
  ...typescript.configs.strict,
  hooks.configs.flat.recommended,
  { languageOptions: { globals: globals.browser } },
);
