import Box from "@mui/material/Box";
import { useEffect, useState } from "react";
import type { MouseEvent } from "react";

import { Problem } from "../api/client";
import type { Schema } from "../api/client";
import { useLook } from "../api/hooks";
import { FileButton } from "../shell/file-button";
import { ProblemNote } from "../shell/said";

interface ObjectPhotoProps {
  onColour: (lab: readonly number[], doubt: number) => void;
}

/** A photo of an object beside the chart: where it is clicked, its colour is taken. */
export function ObjectPhoto({ onColour }: ObjectPhotoProps) {
  const [file, setFile] = useState<File | null>(null);
  const [url, setUrl] = useState("");
  useEffect(() => () => URL.revokeObjectURL(url), [url]);
  const take = useLook(async ({ x, y }: { x: number; y: number }) => {
    const body = new FormData();
    body.append("photo", file as File);
    const answer = await fetch(`/api/find/photo?x=${x.toFixed(4)}&y=${y.toFixed(4)}`, { method: "POST", body });
    if (!answer.ok) throw new Problem(await answer.json(), answer.status);
    return (await answer.json()) as Schema["CellMeasurement"];
  });
  const onClick = (event: MouseEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    take.mutate(
      { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height },
      { onSuccess: (cell) => cell.lab && onColour(cell.lab, cell.uncertainty_de00 ?? 1) },
    );
  };
  return (
    <Box sx={{ mt: 1.5 }}>
      <FileButton
        label="Photo of an object beside a chart"
        accept="image/*,.dng"
        onFile={(chosen) => {
          setFile(chosen);
          setUrl(URL.createObjectURL(chosen));
        }}
      >
        From a photo beside a chart
      </FileButton>
      {file && (
        <Box sx={{ mt: 1 }}>
          <Box sx={{ fontSize: 13 }}>Click on the object, on an even place.</Box>
          <Box component="img" src={url} alt="Photo of the object" onClick={onClick} sx={{ width: "100%", cursor: "crosshair", display: "block" }} />
          {take.isPending && <div role="status">Measuring</div>}
          {take.data?.status === "refused" && <div role="alert">It is too bright there to be measured: choose another place, or a darker photo.</div>}
          <ProblemNote error={take.error} />
        </Box>
      )}
    </Box>
  );
}
