import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { Schema } from "../api/client";
import { fileForm, fileKey } from "../api/file-form";
import { ChartSelect } from "../read/chart-select";
import { typedNumber } from "../settings/quantities";
import { PictureButton } from "../shell/file-button";
import { ProblemNote } from "../shell/said";
import { TappedPhoto } from "../shell/tapped-photo";
import type { Place } from "../shell/tapped-photo";
import { PrintedScale } from "./printed-scale";

interface ScaleEditorProps {
  value: unknown;
  onChange: (steps: readonly Schema["PhStep"][]) => void;
}

/** A box's printed colours, taught by a photo of them beside the chart: three taps, from corner to corner. */
export function ScaleEditor({ value, onChange }: ScaleEditorProps) {
  const steps = (value ?? []) as readonly Schema["PhStep"][];
  const [typed, setTyped] = useState(() => steps.map((step) => step.ph).join(" ") || "4 5 6 7 8 9 10");
  const [pads, setPads] = useState(String(steps[0]?.pads.length ?? 1));
  const [chart, setChart] = useState("");
  const [file, setFile] = useState<File | null>(null);
  const [tapped, setTapped] = useState<readonly Place[]>([]);
  const values = typed
    .trim()
    .split(/[\s;]+/)
    .map((one) => typedNumber(one) ?? NaN);
  const count = Number(pads);
  const rising = values.length > 1 && values.every((one, i) => one >= 0 && one <= 14 && one > (values[i - 1] ?? -1));
  const sound = rising && count >= 1 && count <= 6 && Number.isInteger(count);
  const asked = places(count, values);
  const read = useQuery({
    queryKey: ["printed scale", file && fileKey(file), typed, pads, tapped, chart],
    enabled: file !== null && sound && tapped.length === asked.length,
    retry: false,
    gcTime: 0,
    queryFn: async () => {
      const found = await answered(
        api.POST("/api/ph-strips/scale", {
          params: { query: { ph: values, pads: count, at: tapped.flat(), ...(chart && { chart }) } },
          ...fileForm("photo", file as File),
        }),
      );
      onChange(found.steps);
      return found;
    },
  });
  const next = asked[tapped.length];
  return (
    <Box sx={{ display: "grid", gap: 1.5 }}>
      <Box sx={{ display: "grid", gridTemplateColumns: "2fr 1fr", gap: 1.5 }}>
        <TextField
          label="pH values that the box prints"
          value={typed}
          error={!rising}
          helperText={rising ? "" : "Rising, with spaces between them."}
          onChange={(event) => setTyped(event.target.value)}
        />
        <TextField
          label="Pads on a strip"
          value={pads}
          error={!sound && rising}
          helperText={!sound && rising ? "1 to 6" : ""}
          onChange={(event) => {
            setPads(event.target.value);
            setTapped([]);
          }}
          slotProps={{ htmlInput: { inputMode: "numeric" } }}
        />
        <ChartSelect label="Chart beside it" value={chart} onChange={setChart} />
      </Box>
      {sound && (
        <div>
          <PictureButton
            words={file ? "Another photo" : "Photo of its printed colours, beside the chart"}
            label="Photo of the printed colours"
            onPicture={(picture) => {
              setFile(picture);
              setTapped([]);
            }}
          />
        </div>
      )}
      {file && sound && (
        <div>
          <div role="status">
            {read.isFetching
              ? "Measuring"
              : next
                ? `Tap the middle of the colour of ${next}.`
                : "Look whether each outline lies on its colour; a tap begins anew."}
          </div>
          <TappedPhoto
            key={fileKey(file)}
            file={file}
            alt="Photo of the printed colours"
            onTap={(place) => setTapped(next ? [...tapped, place] : [place])}
            tapped={next ? tapped : []}
            outlines={read.data?.colours.map((one) => one.outline_px) ?? []}
            sizePx={read.data?.photo_size_px}
          />
          <ProblemNote error={read.error} />
        </div>
      )}
      {steps.length > 0 && <PrintedScale steps={steps} />}
    </Box>
  );
}

/** What is tapped, one after the other, in words. */
function places(pads: number, values: readonly number[]): string[] {
  const [lowest, highest] = [values[0], values[values.length - 1]];
  if (pads === 1) return [`pH ${lowest}`, `pH ${highest}`];
  return [`the first pad at pH ${lowest}`, `the last pad at pH ${lowest}`, `the last pad at pH ${highest}`];
}
