import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import { useState } from "react";

import { PanelTabs } from "../shell/panel-tabs";
import type { View } from "../shell/place";
import { HOW_TO } from "./how-to";
import { KEYS } from "./keys";

const TABS = { here: "What to do here", keys: "Keys", more: "More" } as const;

interface HelpDialogProps {
  view: View;
  onClose: () => void;
}

/** What this view is for and what to do in it; keys; and where to read on. */
export function HelpDialog({ view, onClose }: HelpDialogProps) {
  const [tab, setTab] = useState<keyof typeof TABS>("here");
  const here = HOW_TO[view];
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="help-title">
      <DialogTitle id="help-title">Help</DialogTitle>
      <DialogContent>
        <PanelTabs tabs={TABS} value={tab} onChange={setTab} />
        {tab === "here" && (
          <Box>
            <p>{here.what}</p>
            <ol>
              {here.steps.map((step) => (
                <Box component="li" key={step} sx={{ mb: 0.75 }}>
                  {step}
                </Box>
              ))}
            </ol>
          </Box>
        )}
        {tab === "keys" && (
          <dl>
            {KEYS.map(([key, does]) => (
              <Box key={key} sx={{ display: "flex", gap: 2, mb: 0.5 }}>
                <Box component="dt" sx={{ flex: "0 0 190px", fontWeight: 700 }}>
                  {key}
                </Box>
                <Box component="dd" sx={{ m: 0 }}>
                  {does}
                </Box>
              </Box>
            ))}
          </dl>
        )}
        {tab === "more" && (
          <ul>
            <li>
              <a href="#/words" onClick={onClose} style={{ color: "inherit" }}>
                Words of the trade and of this tool
              </a>
              . A word with dots below it explains itself when it is touched.
            </li>
            <li>
              <a href="#/settings" onClick={onClose} style={{ color: "inherit" }}>
                Settings
              </a>
              : units, dates, light or dark.
            </li>
            <li>
              <a href="#/trainer" onClick={onClose} style={{ color: "inherit" }}>
                A trainer for the eye
              </a>
              : five minutes to learn how small a difference you see.
            </li>
            <li>
              A worked example can be laid beside your own work: choose it in the list of studies, or start one from
              “What do you want to know?”.
            </li>
            <li>
              All that you enter is in one file on the computer that runs the application. Safekeeping makes copies of
              it and gets them back.
            </li>
            <li>
              At the bench a lost network does no harm: what you tick is kept on the device and sent when the network is
              back, also after a reload.
            </li>
            <li>Every figure with a + before it can be opened to show how it was worked out.</li>
            <li>Cautions stand at the step. Local rules and the suppliers' safety sheets come first.</li>
          </ul>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}
