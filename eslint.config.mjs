import hooks from "eslint-plugin-react-hooks";
import ts from "typescript-eslint";

const allowedMath = ["abs", "min", "max", "floor", "ceil", "round", "trunc", "sign", "sqrt", "imul", "fround"];

export default ts.config(
  { ignores: ["**/node_modules", "**/.next", ".local", "web/next-env.d.ts", "**/*.cjs", "adapters/kernel"] },
  ...ts.configs.recommended,
  {
    rules: {
      "@typescript-eslint/no-explicit-any": "error",
      "@typescript-eslint/no-unused-vars": ["error", { argsIgnorePattern: "^_", varsIgnorePattern: "^_", ignoreRestSiblings: true }],
      eqeqeq: "error",
    },
  },
  {
    // The core gives the same bits on every engine: only exact functions of Math, no clock, no locale.
    files: ["core/src/**/*.ts"],
    ignores: ["core/src/**/*.test.ts"],
    rules: {
      "no-restricted-syntax": [
        "error",
        {
          selector: `MemberExpression[object.name="Math"]:not([property.name=/^(${allowedMath.join("|")})$/])`,
          message: "Use core/numeric/elementary: this Math function differs between engines.",
        },
        { selector: 'BinaryExpression[operator="**"]', message: "Use pow from core/numeric: ** differs between engines." },
        { selector: "MemberExpression[property.name=/^toLocale/]", message: "No locale in the core." },
      ],
      "no-restricted-globals": ["error", "Date", "Intl", "performance", "process", "window", "document", "fetch", "setTimeout", "console"],
    },
  },
  { files: ["web/**/*.{ts,tsx}"], plugins: { "react-hooks": hooks }, rules: { ...hooks.configs.recommended.rules } },
);
