import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import { useRef, useState } from "react";

import { PackageLook } from "./package-look";

interface BringDialogProps {
  onChoose: (study: number) => void;
  onClose: () => void;
}

/** Studies that come from a file: a package of another file, or a table of earlier swatches. */
export function BringDialog({ onChoose, onClose }: BringDialogProps) {
  const [file, setFile] = useState<File | null>(null);
  const props = { onChoose, onClose, onAnother: () => setFile(null) };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth={file ? "md" : "sm"} aria-labelledby="bring-title">
      <DialogTitle id="bring-title">Studies from a file</DialogTitle>
      {file ? <PackageLook file={file} {...props} /> : <ChooseFile onFile={setFile} onClose={onClose} />}
    </Dialog>
  );
}

function ChooseFile({ onFile, onClose }: { onFile: (file: File) => void; onClose: () => void }) {
  const input = useRef<HTMLInputElement>(null);
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
        }}
      >
        <p>
          A package (.zip) that another file of this application has written: its studies come with plan, log, photographs,
          readings and trials, and go on here. First you see what it would bring.
        </p>
        <Box sx={{ border: 1, borderStyle: "dashed", p: 3, textAlign: "center" }}>
          <Button variant="contained" onClick={() => input.current?.click()} sx={{ minHeight: 48 }}>
            Choose a file
          </Button>
          <Box sx={{ mt: 1 }}>or drop it here</Box>
        </Box>
        <input ref={input} type="file" hidden aria-label="File with studies" accept=".zip" onChange={(event) => take(event.target.files)} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Leave it</Button>
      </DialogActions>
    </>
  );
}
