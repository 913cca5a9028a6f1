import type { QueryClient } from "@tanstack/react-query";

import { oneStudy, studiesFound, studyColours } from "../api/hooks";
import { whoMayComeIn } from "../safekeeping/queries";
import { PANELS } from "./panels";
import { isLens, placeNow } from "./place";

/** Asks at once for what the first look will need, in place of one thing after the other as each is drawn. */
export function fetchAhead(queries: QueryClient): void {
  const { study, view } = placeNow();
  void queries.prefetchQuery(whoMayComeIn);
  const listed = queries.fetchQuery(studiesFound()).catch(() => []);
  if (!isLens(view)) return;
  const look = (id: number) => {
    void queries.prefetchQuery(oneStudy(id));
    void queries.prefetchQuery(studyColours(id));
  };
  if (study !== null) look(study);
  else void listed.then((all) => all[0] && look(all[0].id));
  // A browser asks for six things at once: the grid goes before its panel.
  void import("./study-screen").then(() => void PANELS[view]());
}
