import { useEffect } from "react";

const NAME = "Zesty Grid";
let place = "";
let due = 0;

function write() {
  const at = place ? `${place} · ${NAME}` : NAME;
  document.title = due > 0 ? `(${due}) time is up · ${at}` : at;
}

/** What the tab is called: where one is. */
export function usePageTitle(words: string): void {
  useEffect(() => {
    place = words;
    write();
  }, [words]);
}

/** How many timers have run out, before the name of the place. */
export function sayDue(count: number): void {
  due = count;
  write();
}
