import { hasKey } from "../shell/keys";
import { usePlace } from "../shell/place";

export const COMPARE_PARTS = {
  grid: "Grid",
  real: "What is real",
  chart: "Chart",
  profiles: "Profiles",
  table: "Side by side",
  find: "Find",
  twins: "Odd ones",
  next: "Test next",
  tell: "Tell others",
} as const;
export type ComparePart = keyof typeof COMPARE_PARTS;

/** Where in the lens one is, kept in the address: `rest` is what comes after the part. */
export function useComparePart(study: number): {
  part: ComparePart;
  rest: string;
  open: (part: ComparePart, rest?: string) => void;
} {
  const [url, go] = usePlace();
  const [first = "", ...more] = (url.part ?? "").split("/");
  const part: ComparePart = hasKey(COMPARE_PARTS, first) ? first : "grid";
  return {
    part,
    rest: more.join("/"),
    open: (next, rest) => go({ study, view: "compare", part: next === "grid" ? "" : rest ? `${next}/${rest}` : next }),
  };
}
