import Box from "@mui/material/Box";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";

import type { Shelf, StudyView } from "../../api/client";
import { fieldUnit } from "../../settings/field-unit";
import { Caution } from "../../shell/said";
import { bathsToUseAgain } from "./treatment-draft";
import type { TreatmentDraft } from "./treatment-draft";

interface TreatmentFormProps {
  study: StudyView;
  shelf: Shelf;
  draft: TreatmentDraft;
  change: (draft: TreatmentDraft) => void;
}

/** What one further treatment needs to be said, by its kind. */
export function TreatmentForm({ study, shelf, draft, change }: TreatmentFormProps) {
  const field = (label: string, key: keyof TreatmentDraft, placeholder = "") => (
    <TextField
      label={label}
      value={draft[key]}
      placeholder={placeholder}
      onChange={(event) => change({ ...draft, [key]: event.target.value })}
      slotProps={{ inputLabel: { shrink: true } }}
    />
  );
  const heat = (placeholder = "") => field(fieldUnit("°C").label, "temperature", placeholder);
  const choice = (
    label: string,
    key: keyof TreatmentDraft,
    options: readonly (readonly [string, string])[],
    empty?: string,
  ) => (
    <TextField
      select
      label={label}
      value={draft[key]}
      onChange={(event) => change({ ...draft, [key]: event.target.value })}
      slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}>
      {empty !== undefined && <MenuItem value="">{empty}</MenuItem>}
      {options.map(([value, words]) => (
        <MenuItem key={value} value={value}>
          {words}
        </MenuItem>
      ))}
    </TextField>
  );
  const adjusters = shelf.substances.filter((one) => (one.role === "acid" || one.role === "alkali") && !one.retired);
  return (
    <>
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr 1fr", sm: "1fr 1fr 1fr" }, gap: 1.5 }}>
        {draft.kind === "iron" && (
          <>
            {field("Iron, % WOF", "iron")}
            {choice("How", "route", [
              ["after-bath", "dipped, by the second"],
              ["hot bath", "a warm bath"],
            ])}
            {draft.route === "after-bath" ? field("Seconds", "seconds", "as watched") : heat(fieldUnit("°C").typed(70))}
          </>
        )}
        {draft.kind === "adjust" && (
          <>
            {field("pH", "ph")}
            {choice(
              "With",
              "adjustWith",
              adjusters.map((one) => [one.key, one.name] as const),
              "the study’s acid or alkali",
            )}
            {field("For", "duration", "15 min")}
          </>
        )}
        {draft.kind === "dye" && (
          <>
            {choice(
              "Dye",
              "dye",
              shelf.dye_lots.filter((lot) => !lot.retired).map((lot) => [lot.key, lot.name] as const),
              "choose",
            )}
            {field("% WOF", "strength", "as on the Shelf")}
            {field("pH", "ph", "as it is")}
            {heat("as on the Shelf")}
            {field("For", "duration", "1 h")}
          </>
        )}
        {draft.kind === "again" && (
          <>
            {choice(
              "Which bath",
              "again",
              bathsToUseAgain(study.vessels).map((one) => [one.name, `${one.name} ${one.title}`] as const),
              "choose",
            )}
            {heat("as it was")}
            {field("For", "duration", "1 h")}
          </>
        )}
        {draft.kind === "wash" && (
          <>
            {heat()}
            {field("For", "duration", "30 min")}
          </>
        )}
      </Box>
      {draft.kind === "iron" && (
        <Caution>
          Iron harms children and water life, and weakens cloth when it is strong or left in. Its pots, gloves and bowls
          serve nothing else; local rules come first.
        </Caution>
      )}
      {draft.kind === "adjust" && draft.adjustWith === "ammonia" && (
        <Caution>
          Ammonia fumes: open the window, never near bleach; follow the supplier’s safety sheet and local rules.
        </Caution>
      )}
    </>
  );
}
