import type { ComponentProps } from "react";

import { QuantityField } from "./quantity-field";

interface NumberFieldProps extends Omit<ComponentProps<typeof QuantityField>, "needed" | "onTake"> {
  onTake: (value: number) => void;
}

/** A number that must not be missing; what cannot be read is said, kept as typed, and not taken. */
export function NumberField({ onTake, ...field }: NumberFieldProps) {
  return (
    <QuantityField
      {...field}
      needed
      onTake={(value) => {
        if (value !== null && Number.isFinite(value)) onTake(value);
      }}
    />
  );
}
