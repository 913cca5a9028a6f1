import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import type { TextFieldProps } from "@mui/material/TextField";
import { useState } from "react";
import { useController } from "react-hook-form";
import type { Control, UseControllerReturn } from "react-hook-form";

import { fieldUnit } from "../settings/field-unit";
import type { FieldUnit } from "../settings/field-unit";
import { typedNumber } from "../settings/quantities";
import { ChoiceField } from "../shell/choice-field";
import { DurationField } from "../shell/duration-field";
import { Several } from "../shell/several";
import type { Facts } from "./item-start";
import type { FieldShape } from "./kinds";

const A_NUMBER = "It must be a number, such as 180 or 1.5.";

const isEmpty = (value: unknown) => value == null || String(value).trim() === "";
const isNumber = (value: unknown) => isEmpty(value) || Number.isFinite(typedNumber(String(value)));

/** One fact about an item, typed or chosen; what cannot be read is said at its field. */
export function ItemField({ field, control }: { field: FieldShape; control: Control<Facts> }) {
  const asked = useController<Facts>({
    name: field.name,
    control,
    rules: field.type === "number" ? { validate: (value) => isNumber(value) || A_NUMBER } : {},
  });
  const { value, onChange } = asked.field;
  if (field.type === "yes")
    return (
      <FormControlLabel
        control={<Checkbox checked={Boolean(value)} onChange={(_, on) => onChange(on)} />}
        label={field.label}
      />
    );
  if (field.type === "duration")
    return <DurationField label={field.label} minutes={value == null ? null : Number(value)} onTake={onChange} />;
  if (field.type === "several") {
    const options = (field.options ?? []).map((one) => [one, one] as const);
    return (
      <Several
        label={field.label}
        options={options}
        value={Array.isArray(value) ? value.map(String) : []}
        onChange={onChange}
      />
    );
  }
  if (field.type === "choice") {
    const options = (field.options ?? []).map((one) => [one, one.replaceAll("_", " ")] as const);
    return (
      <ChoiceField
        label={field.label}
        value={isEmpty(value) ? "" : String(value)}
        onChange={onChange}
        options={field.start === undefined ? [["", "not known"], ...options] : options}
      />
    );
  }
  if (field.type === "number") return <InMyUnit unit={fieldUnit(field.label)} asked={asked} />;
  const long = field.type === "sentences";
  return <Typed asked={asked} label={field.label} multiline={long} sx={long ? { gridColumn: "1 / -1" } : {}} />;
}

interface WordsFieldProps extends Omit<TextFieldProps, "name" | "value" | "onChange"> {
  name: string;
  control: Control<Facts>;
}

/** Words about an item. */
export function WordsField({ name, control, required = false, ...field }: WordsFieldProps) {
  const asked = useController<Facts>({
    name,
    control,
    rules: required ? { validate: (value) => !isEmpty(value) || "It needs a name." } : {},
  });
  return <Typed asked={asked} required={required} {...field} />;
}

function Typed({
  asked,
  ...field
}: { asked: UseControllerReturn<Facts> } & Omit<TextFieldProps, "value" | "onChange">) {
  const { value, onChange, onBlur, ref } = asked.field;
  const said = asked.fieldState.error?.message;
  return (
    <TextField
      {...field}
      value={value == null ? "" : String(value)}
      error={said !== undefined}
      helperText={said}
      inputRef={ref}
      onBlur={onBlur}
      onChange={onChange}
    />
  );
}

/** A quantity in the unit that the person chose; it is handed on as it is stored. */
function InMyUnit({ unit, asked }: { unit: FieldUnit; asked: UseControllerReturn<Facts> }) {
  const { value, onChange, onBlur, ref } = asked.field;
  const [text, setText] = useState(() => (typeof value === "number" ? unit.typed(value) : ""));
  const said = asked.fieldState.error?.message;
  return (
    <TextField
      label={unit.label}
      value={text}
      error={said !== undefined}
      helperText={said}
      inputRef={ref}
      slotProps={{ htmlInput: { inputMode: "decimal" } }}
      onBlur={onBlur}
      onChange={(event) => {
        setText(event.target.value);
        const read = unit.stored(event.target.value);
        onChange(Number.isNaN(read) ? event.target.value : read);
      }}
    />
  );
}
