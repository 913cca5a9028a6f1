import CssBaseline from "@mui/material/CssBaseline";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { ThemeProvider } from "@mui/material/styles";
import { Suspense, lazy, useEffect, useMemo, useState, useSyncExternalStore } from "react";
import type { ReactNode } from "react";

import { useStudies, useStudy } from "../api/hooks";
import { Weaves } from "../grid/chip";
import { FileNotice } from "../safekeeping/file-notice";
import { useAccess } from "../safekeeping/queries";
import { useBenchLight } from "./bench-light";
import { Dock } from "./dock";
import { Chest, Jar, Knot } from "./icons";
import { PanelBoundary } from "./panel-boundary";
import { LensBar } from "./lens-bar";
import { usePageTitle } from "./page-title";
import { LENSES, isLens, usePlace } from "./place";
import type { View } from "./place";
import { Awaited, Fetching } from "./said";
import { SkipToPanel } from "./skip-to-panel";
import { Spoken } from "./spoken";
import { StudyMenu } from "./study-menu";
import { themeFor } from "./theme";
import { UndoBar } from "./undo-bar";
import { onWays, waysNow } from "../settings/ways";
import type { Bench } from "./theme";

// What is not on the first screen is fetched when it is wanted.
const FirstStudy = lazy(() => import("../plan/first-study").then((module) => ({ default: module.FirstStudy })));
const HelpDialog = lazy(() => import("../help/help-dialog").then((module) => ({ default: module.HelpDialog })));
const WordsView = lazy(() => import("../help/words-view").then((module) => ({ default: module.WordsView })));
const EnterScreen = lazy(() =>
  import("../safekeeping/enter-screen").then((module) => ({ default: module.EnterScreen })),
);
const SafekeepingView = lazy(() =>
  import("../safekeeping/safekeeping-view").then((module) => ({ default: module.SafekeepingView })),
);
const ShelfView = lazy(() => import("../shelf/shelf-view").then((module) => ({ default: module.ShelfView })));
const TodayView = lazy(() => import("../today/today-view").then((module) => ({ default: module.TodayView })));
const SettingsView = lazy(() =>
  import("../settings/settings-view").then((module) => ({ default: module.SettingsView })),
);
const TrainerView = lazy(() => import("../eye/trainer-view").then((module) => ({ default: module.TrainerView })));
const StudyScreen = lazy(() => import("./study-screen").then((module) => ({ default: module.StudyScreen })));

/** The theme, and the door: a code is asked for only where the application is open to a network. */
export function App() {
  const { bench, chosen, choose } = useBenchLight();
  const theme = useMemo(() => themeFor(bench), [bench]);
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
      <Suspense fallback={null}>
        {shut ? <EnterScreen /> : !access.isPending && <Inside bench={bench} chosen={chosen} onBench={choose} />}
      </Suspense>
    </ThemeProvider>
  );
}

interface InsideProps {
  bench: Bench;
  chosen: Bench | null;
  onBench: (bench: Bench | null) => void;
}

function Inside({ bench, chosen, onBench }: InsideProps) {
  const [place, go] = usePlace();
  useSyncExternalStore(onWays, waysNow);
  const [helpShown, setHelpShown] = useState(false);
  const studies = useStudies();
  const study = place.study ?? studies.data?.[0]?.id ?? null;
  const listed = studies.data?.find((one) => one.id === study)?.name;
  const other = useStudy(study ?? 0, study !== null && studies.data !== undefined && listed === undefined);
  const name = listed ?? other.data?.plan.name;
  const title = isLens(place.view)
    ? [VIEW_NAMES[place.view], name].filter(Boolean).join(" · ")
    : VIEW_NAMES[place.view];
  usePageTitle(title);

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (target.closest("input, textarea, select, [role=dialog], [contenteditable]")) return;
      const lens = LENSES[Number(event.key) - 1];
      if (lens) go({ study, view: lens });
      else if (event.key === "?") setHelpShown(true);
      else if (event.key === "/") {
        event.preventDefault();
        document.querySelector<HTMLElement>("[aria-label='Find in the grid']")?.focus();
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [go, study]);

  return (
    <Box sx={{ display: "flex", flexDirection: "column", height: "100dvh" }}>
      <SkipToPanel />
      <Box
        component="header"
        className="not-printed"
        sx={{ display: "flex", alignItems: "center", gap: { xs: 0.25, sm: 1 }, px: { xs: 0.75, sm: 1.5 }, py: 0.5 }}>
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
        <PlaceButton view="today" at={place.view} onGo={(view) => go({ study, view })}>
          <Knot />
        </PlaceButton>
        <PlaceButton view="shelf" at={place.view} onGo={(view) => go({ study, view })}>
          <Jar />
        </PlaceButton>
        <PlaceButton view="safekeeping" at={place.view} onGo={(view) => go({ study, view })} fromTablet>
          <Chest />
        </PlaceButton>
        <Button
          sx={{ ...HEAD_BUTTON, display: { xs: "none", sm: "inline-flex" } }}
          aria-label={bench === "light" ? "Dark bench" : "Light bench"}
          title={bench === "light" ? "Dark bench" : "Light bench"}
          onClick={() => onBench(bench === "light" ? "dark" : "light")}>
          {bench === "light" ? "Dark" : "Light"}
        </Button>
        <Button sx={HEAD_BUTTON} onClick={() => setHelpShown(true)} aria-label="Help ?" title="Help (?)">
          ?
        </Button>
      </Box>
      <FileNotice onOpen={() => go({ study, view: "safekeeping" })} />
      <LensBar view={place.view} onChoose={(view) => go({ study, view })} />
      <Box component="main" sx={{ flex: 1, minHeight: 0, display: "flex", flexDirection: "column" }}>
        {!HEADED.includes(place.view) && <Spoken component="h1">{title}</Spoken>}
        <PanelBoundary of={place.view}>
          <Suspense fallback={<Fetching />}>
            {place.view === "shelf" ? (
              <ShelfView />
            ) : place.view === "today" ? (
              <TodayView
                onGo={(id, view) => go({ study: id, view })}
                onSafekeeping={() => go({ study, view: "safekeeping" })}
              />
            ) : place.view === "safekeeping" ? (
              <SafekeepingView />
            ) : place.view === "words" ? (
              <WordsView />
            ) : place.view === "settings" ? (
              <SettingsView chosen={chosen} onBench={onBench} />
            ) : place.view === "trainer" ? (
              <TrainerView />
            ) : study === null ? (
              <Awaited query={studies}>{() => <FirstStudy onMade={(id) => go({ study: id, view: "plan" })} />}</Awaited>
            ) : (
              <StudyScreen
                key={study}
                id={study}
                lens={isLens(place.view) ? place.view : "plan"}
                onGone={() => go({ study: null, view: "plan" })}
                onCopied={(id) => go({ study: id, view: "plan" })}
              />
            )}
          </Suspense>
        </PanelBoundary>
      </Box>
      <UndoBar />
      <Dock onGo={(id, name) => go({ study: id, view: "dye", part: `at/${name}` })} />
      {helpShown && (
        <Suspense fallback={null}>
          <HelpDialog key={place.view} view={place.view} onClose={() => setHelpShown(false)} />
        </Suspense>
      )}
    </Box>
  );
}

/** Views with a first heading of their own. */
const HEADED: readonly View[] = ["shelf", "safekeeping", "words", "settings", "trainer"];

const VIEW_NAMES: Record<View, string> = {
  plan: "Plan",
  weigh: "Weigh",
  dye: "Dye",
  read: "Read",
  fade: "Fade",
  compare: "Compare",
  today: "Today",
  shelf: "Shelf",
  safekeeping: "Safekeeping",
  words: "Words",
  settings: "Settings",
  trainer: "Trainer for the eye",
};

const HEAD_BUTTON = {
  minWidth: 48,
  minHeight: 48,
  px: { xs: 0.5, sm: 1.25 },
  gap: 0.75,
  textDecoration: "none",
  flex: "none",
} as const;

interface PlaceButtonProps {
  view: View;
  at: View;
  onGo: (view: View) => void;
  children: ReactNode;
  /** A phone has no room for it: Today leads there. */
  fromTablet?: boolean;
}

/** A place beside the studies: its sign, and its name where there is room for it. */
function PlaceButton({ view, at, onGo, children, fromTablet = false }: PlaceButtonProps) {
  const here = at === view;
  return (
    <Button
      onClick={() => onGo(view)}
      aria-current={here ? "page" : undefined}
      aria-label={VIEW_NAMES[view]}
      title={VIEW_NAMES[view]}
      sx={{
        ...HEAD_BUTTON,
        ...(fromTablet && { display: { xs: "none", sm: "inline-flex" } }),
        boxShadow: here ? "inset 0 -3px 0 currentColor" : "none",
      }}>
      {children}
      <Box component="span" sx={{ display: { xs: "none", md: "inline" } }}>
        {VIEW_NAMES[view]}
      </Box>
    </Button>
  );
}
