import { useCallback, useMemo } from "react";

import { hasKey } from "../shell/keys";
import { useInAddress } from "../shell/place";
import { LOOKING_AT_ALL, ORDERS, SHOWN } from "./find-in-grid";
import type { Looking } from "./find-in-grid";

/** What is looked for in the grid; it stands in the address. */
export function useLooking(): [Looking, (looking: Looking) => void] {
  const [text, setText] = useInAddress("find");
  const [shown, setShown] = useInAddress("show");
  const [order, setOrder] = useInAddress("order");
  const looking = useMemo<Looking>(
    () => ({
      text,
      shown: hasKey(SHOWN, shown) ? shown : LOOKING_AT_ALL.shown,
      order: hasKey(ORDERS, order) ? order : LOOKING_AT_ALL.order,
    }),
    [text, shown, order],
  );
  const setLooking = useCallback(
    (next: Looking) => {
      setText(next.text);
      setShown(next.shown === LOOKING_AT_ALL.shown ? "" : next.shown);
      setOrder(next.order === LOOKING_AT_ALL.order ? "" : next.order);
    },
    [setText, setShown, setOrder],
  );
  return [looking, setLooking];
}
