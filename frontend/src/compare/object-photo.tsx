import Box from "@mui/material/Box";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { MouseEvent } from "react";

import { answered, api } from "../api/client";
import { fileForm } from "../api/file-form";
import { useLook } from "../api/hooks";
import { FileButton } from "../shell/file-button";
import { usePictureUrl } from "../shell/picture-url";
import { ProblemNote } from "../shell/said";

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
      {file && <ClickedPhoto key={`${file.name} ${file.lastModified} ${file.size}`} file={file} onColour={onColour} />}
    </Box>
  );
}

function ClickedPhoto({ file, onColour }: ObjectPhotoProps & { file: File }) {
  const [unknownHere, setUnknownHere] = useState(false);
  // Browsers show neither raw files nor all that phones take: then the server makes a picture of it.
  const made = useQuery({
    queryKey: ["picture for the screen", file.name, file.lastModified, file.size],
    enabled: unknownHere,
    retry: false,
    gcTime: 0,
    queryFn: () => answered(api.POST("/api/find/photo/image", { ...fileForm("photo", file), parseAs: "blob" })),
  });
  const own = usePictureUrl(file);
  const drawn = usePictureUrl(made.data);
  const shown = unknownHere ? drawn : own;
  const take = useLook(({ x, y }: { x: number; y: number }) =>
    answered(api.POST("/api/find/photo", { params: { query: { x, y } }, ...fileForm("photo", file) })),
  );
  const onClick = (event: MouseEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    take.mutate(
      { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height },
      { onSuccess: (cell) => cell.lab && onColour(cell.lab, cell.uncertainty_de00 ?? 1) },
    );
  };
  return (
    <Box sx={{ mt: 1 }}>
      <Box sx={{ fontSize: 13 }}>Click on the object, on an even place.</Box>
      {made.isFetching && <div role="status">Opening the photo</div>}
      {shown && (
        <Box
          component="img"
          src={shown}
          alt="Photo of the object"
          onClick={onClick}
          onError={() => setUnknownHere(true)}
          sx={{ width: "100%", cursor: "crosshair", display: "block" }}
        />
      )}
      {take.isPending && <div role="status">Measuring</div>}
      {take.data?.status === "refused" && (
        <div role="alert">It is too bright there to be measured: choose another place, or a darker photo.</div>
      )}
      <ProblemNote error={made.error ?? take.error} />
    </Box>
  );
}
