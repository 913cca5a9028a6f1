import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import { useState } from "react";

import { momentWords } from "../shell/dates";
import { FileButton } from "../shell/file-button";
import { PackageLook } from "./package-look";
import { useTaken } from "./queries";
import { TableLook } from "./table-look";

interface BringDialogProps {
  onChoose: (study: number) => void;
  onClose: () => void;
}

/** Studies that come from a file: a package of another file, or a table of earlier swatches. */
export function BringDialog({ onChoose, onClose }: BringDialogProps) {
  const [file, setFile] = useState<File | null>(null);
  const props = { onChoose, onClose, onAnother: () => setFile(null) };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth={file ? "lg" : "sm"} aria-labelledby="bring-title">
      <DialogTitle id="bring-title">Studies from a file</DialogTitle>
      {!file && <ChooseFile onFile={setFile} onClose={onClose} />}
      {file && (isPackage(file) ? <PackageLook file={file} {...props} /> : <TableLook file={file} {...props} />)}
    </Dialog>
  );
}

const isPackage = (file: File) => /\.zip$/i.test(file.name);

function ChooseFile({ onFile, onClose }: { onFile: (file: File) => void; onClose: () => void }) {
  const take = (files: FileList | null) => {
    const chosen = files?.[0];
    if (chosen) onFile(chosen);
  };
  return (
    <>
      <DialogContent
        onDragOver={(event) => event.preventDefault()}
        onDrop={(event) => {
          event.preventDefault();
          take(event.dataTransfer.files);
        }}>
        <p>
          <strong>A package (.zip)</strong> that another file of this application has written: its studies come with
          plan, log, photographs, readings and trials, and go on here.
        </p>
        <p>
          <strong>A table (.csv, .xlsx)</strong> of swatches that you dyed before: one row a swatch, with fibre, dye,
          recipe, and its colour as L*a*b* or hex. It becomes a study.
        </p>
        <p>First you see what it would bring.</p>
        <Box sx={{ border: 1, borderStyle: "dashed", p: 3, textAlign: "center" }}>
          <FileButton
            label="File with studies"
            accept=".zip,.csv,.tsv,.txt,.xlsx"
            variant="contained"
            sx={{ minHeight: 48 }}
            onFile={onFile}>
            Choose a file
          </FileButton>
          <Box sx={{ mt: 1 }}>or drop it here</Box>
        </Box>
        <TakenBefore />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Leave it</Button>
      </DialogActions>
    </>
  );
}

const LINES = 4;

/** Packages that were taken in lately. */
function TakenBefore() {
  const taken = useTaken();
  if (!taken.data?.length) return null;
  return (
    <Box component="section" aria-label="Taken in before" sx={{ mt: 2, fontSize: 14 }}>
      Taken in before:
      {taken.data.slice(0, LINES).map((one) => (
        <div key={one.at}>
          {momentWords(one.at)}, {one.filename || "a package"}:{" "}
          {one.studies
            .filter((study) => study.how !== "here")
            .map((study) => study.name)
            .join(" · ")}
        </div>
      ))}
    </Box>
  );
}
