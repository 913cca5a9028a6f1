import { useMemo, useState } from "react";

import type { GridCell, Schema, StudyView, TrialView } from "../api/client";
import { useAged, useLasting, useShelf, useTrials } from "../api/hooks";
import type { Face } from "../grid/grid-cell";
import { hasKey } from "../shell/keys";
import { usePlace } from "../shell/place";
import { changeWords, ratingWords } from "./fade-words";

export const FADE_PARTS = {
  grid: "Grid",
  strips: "Strips",
  curves: "Curves",
  lasting: "What lasts",
  life: "Life",
} as const;
type FadePart = keyof typeof FADE_PARTS;

export interface FadeState {
  trials: ReturnType<typeof useTrials>;
  trial: TrialView | undefined;
  stage: number;
  lasting: ReturnType<typeof useLasting>;
  part: FadePart;
  open: (part: FadePart) => void;
  chooseTrial: (id: number) => void;
  chooseStage: (stage: number) => void;
  life: LifeChoice;
  faceOf: (cell: GridCell, plain: Face) => Face;
}

/** How far ahead one looks, and in which places. */
interface LifeChoice {
  count: number;
  setCount: (count: number) => void;
  place: string;
  setPlace: (key: string) => void;
  other: string;
  setOther: (key: string) => void;
  grid: Schema["AgedGrid"] | undefined;
  otherGrid: Schema["AgedGrid"] | undefined;
}

const lastRead = (trial: TrialView | undefined) => Math.max(0, ...(trial?.points ?? []).map((point) => point.stage));

/** Each chip shows its kept-dark part and its exposed part at the chosen stage, or as foretold. */
export function useFadeFaces(study: StudyView, shown: boolean): FadeState {
  const trials = useTrials(study.id);
  const [url, go] = usePlace();
  const part: FadePart = hasKey(FADE_PARTS, url.part) ? url.part : "grid";
  const [chosen, setChosen] = useState<number | null>(null);
  const [wanted, setWanted] = useState<number | null>(null);
  const [count, setCount] = useState(10);
  const [place, setPlace] = useState("");
  const [other, setOther] = useState("");
  const trial = trials.data?.find((one) => one.id === chosen) ?? trials.data?.[0];
  const stage = wanted ?? lastRead(trial);
  const lasting = useLasting(study.id, shown && part !== "grid" ? trial?.id : undefined);
  const places = useShelf().data?.light_places ?? [];
  const light = trial?.plan.kind === "light";
  const where = light ? place || (places[0]?.key ?? "") : "";
  const looking = shown && part === "life" && (!light || where !== "");
  const grid = useAged(study.id, trial?.id, count, where, looking).data;
  const otherGrid = useAged(study.id, trial?.id, count, other, looking && light && other !== "").data;
  const points = useMemo(() => byCode(trial?.points.filter((one) => one.stage === stage)), [trial, stage]);
  const aged = useMemo(() => byCode(grid?.swatches), [grid]);
  const agedThere = useMemo(() => byCode(other ? otherGrid?.swatches : []), [other, otherGrid]);

  const asRead = (cell: GridCell, plain: Face): Face => {
    const own = cell.swatches.flatMap((code) => points.get(code) ?? []);
    if (own.length === 0) return notInTrial(plain);
    return {
      fills: own.flatMap((point) => [point.dark_hex, point.exposed_hex]),
      caption: [...new Set(own.map((point) => ratingWords(point)))].join(" "),
      more: [plain.caption, ...own.map((point) => changeWords(point))],
      words: `${plain.words}; ${own.map((point) => `${point.swatch} rating ${ratingWords(point)}, ${changeWords(point)}`).join("; ")}`,
    };
  };
  const asForetold = (cell: GridCell, plain: Face): Face => {
    const own = cell.swatches.flatMap((code) => aged.get(code) ?? []);
    if (own.length === 0) return notInTrial(plain);
    const said = own.map(
      (one) =>
        `${one.swatch} foretold ΔE00 ${one.de00.toFixed(1)} (${one.low_de00.toFixed(1)} to ${one.high_de00.toFixed(1)})`,
    );
    return {
      fills: own.flatMap((one) => [
        one.hex_today,
        one.hex,
        ...(agedThere.get(one.swatch) ?? []).map((there) => there.hex),
      ]),
      caption: own.map((one) => `${one.low_de00.toFixed(0)}–${one.high_de00.toFixed(0)}`).join(" "),
      more: [plain.caption, ...said],
      words: `${plain.words}; ${said.join("; ")}`,
    };
  };
  return {
    trials,
    trial,
    stage,
    lasting,
    part,
    open: (next) => go({ study: study.id, view: "fade", part: next === "grid" ? "" : next }),
    chooseTrial: (id) => {
      setChosen(id);
      setWanted(null);
      setCount(trials.data?.find((one) => one.id === id)?.plan.kind === "light" ? 10 : 5);
    },
    chooseStage: setWanted,
    life: { count, setCount, place: where, setPlace, other, setOther, grid, otherGrid },
    faceOf: part === "life" ? asForetold : asRead,
  };
}

const notInTrial = (plain: Face): Face => ({
  ...plain,
  fills: [],
  pictures: [],
  more: [],
  faint: true,
  caption: "",
  words: `${plain.words}; not in this trial`,
});

function byCode<T extends { swatch: string }>(all: readonly T[] | undefined): Map<string, T[]> {
  const found = new Map<string, T[]>();
  for (const one of all ?? []) found.set(one.swatch, [...(found.get(one.swatch) ?? []), one]);
  return found;
}
