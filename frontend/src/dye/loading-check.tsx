import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";

import { answered, api } from "../api/client";
import { fileForm } from "../api/file-form";
import type { Schema, StudyView } from "../api/client";
import { useLook } from "../api/hooks";
import { tieOf } from "../grid/cells";
import { PictureButton } from "../shell/file-button";
import { ProblemNote } from "../shell/said";
import { whoIs } from "./bench-state";
import type { VesselBench } from "./bench-state";
import { useLogging } from "./outbox";

type Identified = Schema["Identified"];

interface LoadingCheckProps {
  study: StudyView;
  one: VesselBench;
  step: string;
}

/** Each swatch is ticked in by a tap, its code, its tie, or its label before the camera. */
export function LoadingCheck({ study, one, step }: LoadingCheckProps) {
  const log = useLogging(study.id);
  const [text, setText] = useState("");
  const [said, setSaid] = useState<Identified[]>([]);
  const at = { vessel: one.vessel.name, step };
  const codes = whoIs(one);
  const take = (found: Identified[]) => {
    setSaid(found);
    const fresh = found.filter((who) => who.belongs && !who.inside && who.code).map((who) => who.code ?? "");
    if (fresh.length > 0) log({ kind: "loaded", ...at, swatches: fresh });
    if (found.every((who) => who.belongs)) setText("");
  };
  const ask = useLook((typed: string) =>
    answered(
      api.POST("/api/studies/{study_id}/dye/who", {
        params: { path: { study_id: study.id } },
        body: { vessel: one.vessel.name, text: typed },
      }),
    ),
  );
  const scan = useLook((file: File) =>
    answered(
      api.POST("/api/studies/{study_id}/dye/scan", {
        params: { path: { study_id: study.id }, query: { vessel: one.vessel.name } },
        ...fileForm("file", file),
      }),
    ),
  );
  const offline = (typed: string) => {
    const code = typed.trim().toUpperCase();
    const belongs = codes.includes(code);
    take([
      {
        code: belongs ? code : null,
        belongs,
        inside: one.inside.includes(code),
        words: belongs ? `${code} goes in.` : `${code} is not of this vessel.`,
      },
    ]);
  };
  const typed = () => {
    if (text.trim()) ask.mutate(text, { onSuccess: (who) => take([who]), onError: () => offline(text) });
  };
  const inAllTheSame = (who: Identified) => {
    log({ kind: "loaded", ...at, swatches: [who.code ?? ""], sure: true });
    setSaid(said.filter((one_) => one_ !== who));
    setText("");
  };
  const left = codes.filter((code) => !one.inside.includes(code)).length;
  return (
    <Box sx={{ my: 1 }}>
      <Box sx={{ fontSize: 20, fontWeight: 700 }} aria-live="polite">
        {codes.length - left} of {codes.length} in{left === 0 && ": complete, the lid can go on"}
      </Box>
      <Box sx={{ display: "flex", gap: 1, my: 1 }}>
        <TextField
          label="Code or tie"
          value={text}
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => event.key === "Enter" && typed()}
          slotProps={{ htmlInput: { autoCapitalize: "characters", autoComplete: "off", spellCheck: false } }}
        />
        <Button variant="outlined" color="secondary" sx={{ minHeight: 48, flex: "none" }} onClick={typed}>
          Tick in
        </Button>
        <PictureButton
          words="Scan labels"
          label="Picture of labels"
          onPicture={(file) => scan.mutate(file, { onSuccess: take })}
        />
      </Box>
      <ProblemNote error={scan.error} />
      {said.map((who) => (
        <Box
          key={who.words}
          role={who.belongs ? "status" : "alert"}
          sx={{
            my: 0.5,
            pl: 1,
            borderLeft: 6,
            borderColor: who.belongs ? "divider" : "error.main",
            fontWeight: who.belongs ? 400 : 700,
          }}>
          {who.words}
          {!who.belongs && who.code && (
            <Box sx={{ fontWeight: 400 }}>
              {who.counts_as && `Had it gone in, it would be: ${who.counts_as.words}. `}
              <Button variant="outlined" color="secondary" size="small" onClick={() => inAllTheSame(who)}>
                It went in all the same
              </Button>
            </Box>
          )}
        </Box>
      ))}
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.75 }}>
        {codes.map((code) => {
          const inside = one.inside.includes(code);
          const stray = !one.vessel.swatches.includes(code);
          return (
            <Button
              key={code}
              variant="outlined"
              color="secondary"
              aria-pressed={inside}
              onClick={() => log({ kind: inside ? "unloaded" : "loaded", ...at, swatches: [code], sure: stray })}
              sx={{
                minHeight: 52,
                minWidth: 84,
                borderWidth: inside ? 3 : 1,
                opacity: inside ? 1 : 0.75,
                flexDirection: "column",
                lineHeight: 1.15,
              }}>
              <span>
                {inside ? "✓ " : ""}
                {code}
              </span>
              <Box component="span" sx={{ fontSize: 12, fontWeight: 400 }}>
                {stray ? "does not belong" : tieOf(study, code)}
              </Box>
            </Button>
          );
        })}
      </Box>
    </Box>
  );
}
