import { useEffect, useState } from "react";

/** What somebody types, once they have stopped for a moment. */
export function useSettled(text: string, afterMs = 200): string {
  const [settled, setSettled] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(text), afterMs);
    return () => clearTimeout(timer);
  }, [text, afterMs]);
  return settled;
}
