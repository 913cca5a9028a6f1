import { useEffect, useState } from "react";

/** The present moment in ms, anew every so often, so that clocks on the screen run. */
export function useTicking(everyMs = 1000): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), everyMs);
    return () => clearInterval(timer);
  }, [everyMs]);
  return now;
}

/** 1:02:03 or 4:05; below zero with a plus, as time that has run over. */
export function clockWords(seconds: number): string {
  const whole = Math.floor(Math.abs(seconds));
  const [h, m, s] = [Math.floor(whole / 3600), Math.floor(whole / 60) % 60, whole % 60];
  const two = (n: number) => String(n).padStart(2, "0");
  const text = h > 47 ? `${Math.floor(h / 24)} d ${h % 24} h` : h > 0 ? `${h}:${two(m)}:${two(s)}` : `${m}:${two(s)}`;
  return seconds < 0 ? `+${text}` : text;
}
