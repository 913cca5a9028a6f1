import js from "@eslint/js";
import reactHooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: ["src/api/schema.d.ts"] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  {
    plugins: { "react-hooks": reactHooks },
    rules: {
      ...reactHooks.configs.recommended.rules,
      // Nothing is compiled for memoization here, so the virtual grid's library does no harm.
      "react-hooks/incompatible-library": "off",
      "no-restricted-syntax": [
        "error",
        {
          selector: "JSXAttribute[name.name='type'][value.value='number']",
          message:
            "Numbers are typed with a comma or a point and in the person's unit: QuantityField, NumberField or LateNumber.",
        },
        {
          selector: "TemplateElement[value.raw=/\\$$/]",
          message: "A dollar sign before what is put in is seen on the screen.",
        },
        {
          selector: "TemplateLiteral > LogicalExpression[operator='&&'][left.operator=/[=<>!]/]",
          message: 'Where it is not so, "false" is seen on the screen.',
        },
      ],
    },
  },
);
