import { useEffect, useRef } from "react";

import type { StudyView } from "../api/client";
import { useInAddress } from "../shell/place";
import { cellKeysOf } from "./cells";
import { useChosenCells } from "./selection";
import type { Selection } from "./selection";

/** More would make an address that no mail takes. */
const MOST = 120;
const SETTLED_MS = 300;

/** The chosen swatches stand in the address by their codes, so that a reload or a link brings them back. */
export function ChosenInAddress({ study, selection }: { study: StudyView; selection: Selection }) {
  const chosen = useChosenCells(study, selection);
  const [codes, setCodes] = useInAddress("of");
  const first = useRef(true);
  useEffect(() => {
    if (!first.current) return;
    first.current = false;
    const keys = codes ? cellKeysOf(study, codes.split(".")) : [];
    if (keys.length > 0) selection.replace(keys);
  }, [codes, study, selection]);
  const own = chosen.length <= MOST ? chosen.flatMap((cell) => cell.swatches.slice(0, 1)).join(".") : "";
  const before = useRef(own);
  useEffect(() => {
    if (own === before.current) return undefined;
    const timer = setTimeout(() => {
      before.current = own;
      setCodes(own);
    }, SETTLED_MS);
    return () => clearTimeout(timer);
  }, [own, setCodes]);
  return null;
}
