import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { Schema } from "../api/client";
import { typedNumber } from "../settings/quantities";
import { FileButton } from "../shell/file-button";
import { ProblemNote } from "../shell/said";

interface ChartEditorProps {
  name: string;
  value: unknown;
  onChange: (chart: unknown) => void;
}

/** A chart's values from its maker's file, shown as it lies on the table, with what it serves for. */
export function ChartEditor({ name, value, onChange }: ChartEditorProps) {
  const [content, setContent] = useState("");
  const [columns, setColumns] = useState("");
  const [pitch, setPitch] = useState("");
  const [patch, setPatch] = useState("");
  const chart = value as Schema["ShelfChart"]["chart"] | undefined;
  const asked = content || (chart ? JSON.stringify(chart) : "");
  const called = name.replace(/[^A-Za-z0-9 ._-]/g, "").slice(0, 40) || "chart";
  const look = useQuery({
    queryKey: ["chart", asked, columns, pitch, patch, content ? called : ""],
    enabled: asked !== "",
    retry: false,
    queryFn: async () => {
      const found = await answered(
        api.POST("/api/charts/look", {
          body: {
            name: called,
            content: asked,
            columns: Number(columns) || 0,
            pitch_mm: typedNumber(pitch),
            patch_mm: typedNumber(patch),
          },
        }),
      );
      if (content) onChange(found.chart);
      return found;
    },
  });
  const take = async (file: File | undefined) => file && setContent(await file.text());
  return (
    <Box
      sx={{ display: "grid", gap: 1, fontSize: 13 }}
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        void take(event.dataTransfer.files[0]);
      }}>
      {!chart && (
        <div>
          Its patches row by row from the upper left, for D50 and 2°, or as spectra: CGATS text, CSV, or this
          application's chart file. A chart with no such file can be measured with an instrument.
        </div>
      )}
      <Box sx={{ display: "flex", gap: 1, alignItems: "start" }}>
        <FileButton label="Chart file" color="secondary" sx={{ flex: "none" }} onFile={(file) => void take(file)}>
          Choose the chart's file
        </FileButton>
        {!chart && <Box sx={{ pt: 1 }}>or drop it here</Box>}
      </Box>
      {content && !content.trimStart().startsWith("{") && (
        <Box sx={{ display: "grid", gridTemplateColumns: "repeat(3, 1fr)", gap: 1 }}>
          <TextField
            label="Patches in a row"
            placeholder="as it says"
            value={columns}
            onChange={(event) => setColumns(event.target.value)}
            slotProps={{ inputLabel: { shrink: true }, htmlInput: { inputMode: "numeric" } }}
          />
          <TextField
            label="Middle to middle, mm"
            placeholder="as fits"
            value={pitch}
            onChange={(event) => setPitch(event.target.value)}
            slotProps={{ inputLabel: { shrink: true }, htmlInput: { inputMode: "decimal" } }}
          />
          <TextField
            label="A patch, mm"
            placeholder="as fits"
            value={patch}
            onChange={(event) => setPatch(event.target.value)}
            slotProps={{ inputLabel: { shrink: true }, htmlInput: { inputMode: "decimal" } }}
          />
        </Box>
      )}
      {!chart && (
        <TextField
          multiline
          maxRows={4}
          label="or paste it"
          value={content}
          onChange={(event) => setContent(event.target.value)}
          slotProps={{ htmlInput: { style: { fontFamily: "monospace", fontSize: 12 } } }}
        />
      )}
      <ProblemNote error={look.error} />
      {look.data && (
        <>
          <Box
            role="img"
            aria-label={`${look.data.chart.rows} rows of ${look.data.chart.columns} patches`}
            sx={{
              display: "grid",
              gridTemplateColumns: `repeat(${look.data.chart.columns}, minmax(0, 1fr))`,
              gap: "2px",
              bgcolor: "#3d3d3d",
              p: "4px",
              maxWidth: 420,
            }}>
            {look.data.hexes.map((hex, i) => (
              <Box key={i} title={look.data.chart.patches[i]?.name} sx={{ aspectRatio: "1.1", bgcolor: hex }} />
            ))}
          </Box>
          <div>
            {look.data.chart.rows} rows of {look.data.chart.columns}, {look.data.chart.pitch_mm?.[0]} mm from middle to
            middle, each {look.data.chart.patch_mm?.[0]} mm. Lay a ruler on your card: sheets are printed for these
            measures.
          </div>
          {look.data.serves.map((words) => (
            <div key={words}>{words}</div>
          ))}
        </>
      )}
    </Box>
  );
}
