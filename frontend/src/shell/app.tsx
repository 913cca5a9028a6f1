import CssBaseline from "@mui/material/CssBaseline";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { ThemeProvider } from "@mui/material/styles";
import { useEffect, useMemo, useState } from "react";

import { useStudies, useStudy } from "../api/hooks";
import { Weaves } from "../grid/chip";
import { FirstStudy } from "../plan/first-study";
import { EnterScreen } from "../safekeeping/enter-screen";
import { FileNotice } from "../safekeeping/file-notice";
import { useAccess } from "../safekeeping/queries";
import { SafekeepingView } from "../safekeeping/safekeeping-view";
import { ShelfView } from "../shelf/shelf-view";
import { TodayView } from "../today/today-view";
import { Dock } from "./dock";
import { KeysDialog } from "./keys-dialog";
import { PanelBoundary } from "./panel-boundary";
import { LensBar } from "./lens-bar";
import { LENSES, isLens, usePlace } from "./place";
import { Awaited } from "./said";
import { StudyMenu } from "./study-menu";
import { StudyScreen } from "./study-screen";
import { themeFor } from "./theme";
import { UndoBar } from "./undo-bar";
import type { Bench } from "./theme";

/** The theme, and the door: a code is asked for only where the application is open to a network. */
export function App() {
  const [bench, setBench] = useState<Bench>(
    () => (localStorage.getItem("bench") as Bench | null) ?? "light",
  );
  const theme = useMemo(() => themeFor(bench), [bench]);
  useEffect(() => localStorage.setItem("bench", bench), [bench]);
  const access = useAccess();
  const shut = access.data?.asked === true && access.data.kind == null;
  useEffect(() => {
    // A device that is already in followed a link with the code: it does not stay in the address.
    if (!shut && access.data && window.location.hash.startsWith("#/enter/")) window.location.replace("#/plan");
  }, [shut, access.data]);
  return (
    <ThemeProvider theme={theme}>
      <CssBaseline />
      <Weaves />
      {shut ? <EnterScreen /> : !access.isPending && <Inside bench={bench} onBench={setBench} />}
    </ThemeProvider>
  );
}

function Inside({ bench, onBench }: { bench: Bench; onBench: (bench: Bench) => void }) {
  const [place, go] = usePlace();
  const [keysShown, setKeysShown] = useState(false);
  const studies = useStudies();
  const study = place.study ?? studies.data?.[0]?.id ?? null;
  const listed = studies.data?.find((one) => one.id === study)?.name;
  const other = useStudy(study ?? 0, study !== null && studies.data !== undefined && listed === undefined);
  const name = listed ?? other.data?.plan.name;

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (target.closest("input, textarea, select, [role=dialog], [contenteditable]")) return;
      const lens = LENSES[Number(event.key) - 1];
      if (lens) go({ study, view: lens });
      else if (event.key === "?") setKeysShown(true);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [go, study]);

  return (
    <Box sx={{ display: "flex", flexDirection: "column", height: "100dvh" }}>
      <Box
        component="header"
        className="not-printed"
        sx={{
          display: "flex",
          alignItems: "center",
          gap: { xs: 0.25, sm: 1 },
          px: { xs: 0.75, sm: 1.5 },
          py: 0.5,
          "& .MuiButton-text": { minWidth: 44, px: { xs: 0.5, sm: 1.5 } },
        }}
      >
        <img src="/assets/sign.svg" width={28} height={28} alt="" />
        <Box component="strong" sx={{ fontSize: 17, display: { xs: "none", sm: "block" } }}>
          Zesty Grid
        </Box>
        <StudyMenu
          name={name}
          study={study}
          onChoose={(id) => go({ study: id, view: isLens(place.view) ? place.view : "plan" })}
        />
        <Box sx={{ flex: 1 }} />
        <Button onClick={() => go({ study, view: "today" })} aria-current={place.view === "today"}>
          Today
        </Button>
        <Button onClick={() => go({ study, view: "shelf" })} aria-current={place.view === "shelf"}>
          Shelf
        </Button>
        <Button
          onClick={() => go({ study, view: "safekeeping" })}
          aria-current={place.view === "safekeeping"}
          sx={{ display: { xs: "none", sm: "inline-flex" } }}
        >
          Safekeeping
        </Button>
        <Button
          aria-label={bench === "light" ? "Dark bench" : "Light bench"}
          onClick={() => onBench(bench === "light" ? "dark" : "light")}>
          {bench === "light" ? "Dark" : "Light"}
        </Button>
        <Button onClick={() => setKeysShown(true)} aria-label="Keys">
          ?
        </Button>
      </Box>
      <FileNotice onOpen={() => go({ study, view: "safekeeping" })} />
      <LensBar view={place.view} onChoose={(view) => go({ study, view })} />
      <Box component="main" sx={{ flex: 1, minHeight: 0, display: "flex", flexDirection: "column" }}>
        <PanelBoundary of={place.view}>
        {place.view === "shelf" ? (
          <ShelfView />
        ) : place.view === "today" ? (
          <TodayView onGo={(id, view) => go({ study: id, view })} onSafekeeping={() => go({ study, view: "safekeeping" })} />
        ) : place.view === "safekeeping" ? (
          <SafekeepingView />
        ) : (
          <Awaited query={studies}>
            {() =>
              study === null ? (
                <FirstStudy onMade={(id) => go({ study: id, view: "plan" })} />
              ) : (
                <StudyScreen
                  key={study}
                  id={study}
                  lens={isLens(place.view) ? place.view : "plan"}
                  onGone={() => go({ study: null, view: "plan" })}
                  onCopied={(id) => go({ study: id, view: "plan" })}
                />
              )
            }
          </Awaited>
        )}
        </PanelBoundary>
      </Box>
      <UndoBar />
      <Dock onGo={(id, name) => go({ study: id, view: "dye", part: `at/${name}` })} />
      <KeysDialog open={keysShown} onClose={() => setKeysShown(false)} />
    </Box>
  );
}
