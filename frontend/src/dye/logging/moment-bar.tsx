import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import { MomentField, localMoment } from "../../shell/moment-field";
import { setMoment, useMoment } from "../outbox";

/** Whether what is logged happens now, or is written down for an earlier time. */
export function MomentBar() {
  const moment = useMoment();
  if (moment === null)
    return (
      <Button size="small" sx={{ p: 0, minHeight: 28 }} onClick={() => setMoment(new Date().toISOString())}>
        It happened earlier: enter it later
      </Button>
    );
  return (
    <Box role="note" aria-label="Entered later" sx={{ border: 3, p: 1, mt: 1 }}>
      <Box sx={{ display: "flex", gap: 1, alignItems: "center" }}>
        <MomentField
          label="What I log happened at"
          value={localMoment(moment)}
          onChange={(value) => value && setMoment(new Date(value).toISOString())}
        />
        <Button variant="contained" sx={{ flex: "none", minHeight: 48 }} onClick={() => setMoment(null)}>
          Back to now
        </Button>
      </Box>
      <Box sx={{ fontSize: 13, mt: 0.5 }}>
        Everything below is logged for that time and marked “entered later”. Move the time on as you go.
      </Box>
    </Box>
  );
}
