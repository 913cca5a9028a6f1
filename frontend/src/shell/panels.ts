/** The panel of each lens, fetched when the lens is looked at. */
export const PANELS = {
  plan: () => import("../plan/plan-panel"),
  weigh: () => import("../weigh/weigh-panel"),
  dye: () => import("../dye/dye-panel"),
  read: () => import("../read/read-panel"),
  fade: () => import("../fade/fade-panel"),
  compare: () => import("../compare/compare-panel"),
};
