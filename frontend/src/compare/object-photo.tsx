import Box from "@mui/material/Box";
import { useState } from "react";

import { answered, api } from "../api/client";
import { fileForm, fileKey } from "../api/file-form";
import { useLook } from "../api/hooks";
import { FileButton } from "../shell/file-button";
import { ProblemNote } from "../shell/said";
import { TappedPhoto } from "../shell/tapped-photo";
import type { Place } from "../shell/tapped-photo";

interface ObjectPhotoProps {
  onColour: (lab: readonly number[], doubt: number) => void;
}

/** A photo of an object beside the chart: where it is clicked, its colour is taken. */
export function ObjectPhoto({ onColour }: ObjectPhotoProps) {
  const [file, setFile] = useState<File | null>(null);
  return (
    <Box sx={{ mt: 1.5 }}>
      <FileButton label="Photo of an object beside a chart" accept="image/*,.heic,.dng" onFile={setFile}>
        From a photo beside a chart
      </FileButton>
      {file && <ClickedPhoto key={fileKey(file)} file={file} onColour={onColour} />}
    </Box>
  );
}

function ClickedPhoto({ file, onColour }: ObjectPhotoProps & { file: File }) {
  const take = useLook(([x, y]: Place) =>
    answered(api.POST("/api/find/photo", { params: { query: { x, y } }, ...fileForm("photo", file) })),
  );
  const onTap = (place: Place) =>
    take.mutate(place, { onSuccess: (cell) => cell.lab && onColour(cell.lab, cell.uncertainty_de00 ?? 1) });
  return (
    <Box sx={{ mt: 1 }}>
      <Box sx={{ fontSize: 13 }}>Click on the object, on an even place.</Box>
      <TappedPhoto file={file} alt="Photo of the object" onTap={onTap} />
      {take.isPending && <div role="status">Measuring</div>}
      {take.data?.status === "refused" && (
        <div role="alert">It is too bright there to be measured: choose another place, or a darker photo.</div>
      )}
      <ProblemNote error={take.error} />
    </Box>
  );
}
