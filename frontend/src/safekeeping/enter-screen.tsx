import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { FormEvent } from "react";

import { answered, api } from "../api/client";
import { ProblemNote } from "../shell/said";

const IN_THE_LINK = /^#\/enter\/([A-Za-z0-9-]{1,60})$/;

/** Asks a device for the access code; a link or its square code brings the code along. */
export function EnterScreen() {
  const queries = useQueryClient();
  const [code, setCode] = useState(() => IN_THE_LINK.exec(window.location.hash)?.[1] ?? "");
  const [device, setDevice] = useState("");
  const [error, setError] = useState<unknown>(null);
  const [asking, setAsking] = useState(false);
  const enter = async (event: FormEvent) => {
    event.preventDefault();
    setAsking(true);
    try {
      await answered(api.POST("/api/access", { body: { code, device } }));
      setError(null);
      // The code does not stay in the address or in the browser's history.
      window.history.replaceState(null, "", "#/plan");
      window.dispatchEvent(new HashChangeEvent("hashchange"));
      await queries.invalidateQueries();
    } catch (problem) {
      setError(problem);
    } finally {
      setAsking(false);
    }
  };
  return (
    <Box component="main" sx={{ minHeight: "100dvh", display: "grid", placeItems: "center", p: 2 }}>
      <Box component="form" onSubmit={(event) => void enter(event)} sx={{ width: "100%", maxWidth: 420 }}>
        <Box sx={{ display: "flex", alignItems: "center", gap: 1.5 }}>
          <img src="/assets/sign.svg" width={44} height={44} alt="" />
          <h1>Zesty Grid</h1>
        </Box>
        <p>
          This grid is open to the devices that have its access code. It was shown where the application was started; a
          device that is already in can make a new one under Safekeeping.
        </p>
        <TextField
          label="Access code"
          value={code}
          onChange={(event) => setCode(event.target.value)}
          autoFocus
          fullWidth
          autoComplete="off"
          slotProps={{ htmlInput: { autoCapitalize: "characters", spellCheck: false, maxLength: 60 } }}
          sx={{ mb: 2 }}
        />
        <TextField
          label="Name of this device"
          helperText="Such as “bench tablet”. What is written from here is signed with it."
          value={device}
          onChange={(event) => setDevice(event.target.value)}
          fullWidth
          slotProps={{ htmlInput: { maxLength: 40 } }}
          sx={{ mb: 2 }}
        />
        <ProblemNote error={error} />
        <Button
          type="submit"
          variant="contained"
          size="large"
          fullWidth
          disabled={!code.trim() || asking}
          sx={{ minHeight: 52 }}>
          Enter
        </Button>
      </Box>
    </Box>
  );
}
