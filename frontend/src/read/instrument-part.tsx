import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import { useState } from "react";

import type { StudyView } from "../api/client";
import { useInstruments } from "../api/hooks";
import { dayWords } from "../shell/dates";
import { Part, ProblemNote } from "../shell/said";
import { AgreementPlot } from "./agreement-plot";
import { InstrumentDialog } from "./instrument-dialog";

/** Files of a spectrophotometer or colorimeter: brought in, listed, and set against the camera. */
export function InstrumentPart({ study }: { study: StudyView }) {
  const found = useInstruments(study.id);
  const [open, setOpen] = useState(false);
  const files = found.data?.files ?? [];
  const agreements = found.data?.agreements ?? [];
  return (
    <Part title="Readings of an instrument">
      <Box sx={{ fontSize: 13 }}>
        Where a spectrophotometer is at hand: its files are matched to swatches by their codes, and its colours stand
        before the camera's.
      </Box>
      <Button variant="outlined" color="secondary" sx={{ mt: 1 }} onClick={() => setOpen(true)}>
        Bring in a file
      </Button>
      <ProblemNote error={found.error} again={() => void found.refetch()} />
      {files.map((file) => {
        const apart = file.samples.filter((one) => one.lab == null);
        return (
          <Box component="details" key={file.id} sx={{ mt: 1, fontSize: 13 }}>
            <summary>
              {file.instrument}, {dayWords(file.measured_on)}: {file.samples.length} samples
            </summary>
            {file.filename}
            {apart.map((one) => (
              <div key={one.name}>
                {one.name}: {one.given_lab?.map((value) => value.toFixed(1)).join(" ")} for {one.given_under}, kept
                apart
              </div>
            ))}
          </Box>
        );
      })}
      {agreements.map((one) => (
        <AgreementPlot key={`${one.camera} ${one.capture}`} study={study.id} agreement={one} />
      ))}
      <Dialog open={open} onClose={() => setOpen(false)} fullWidth maxWidth="md">
        {open && <InstrumentDialog study={study} onDone={() => setOpen(false)} />}
      </Dialog>
    </Part>
  );
}
