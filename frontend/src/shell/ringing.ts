import { notify } from "./offline";

/** Sound, vibration, title and notification for a timer, as far as the device allows. */

let audio: AudioContext | null = null;

/** Browsers let a page sound only after somebody has touched it. */
export function readyToSound() {
  audio ??= new AudioContext();
  void audio.resume();
  if ("Notification" in window && Notification.permission === "default") void Notification.requestPermission();
}

function beep(hertz: number, at: number, length: number, loudness: number) {
  if (!audio) return;
  const tone = audio.createOscillator();
  const volume = audio.createGain();
  tone.frequency.value = hertz;
  volume.gain.value = loudness;
  tone.connect(volume).connect(audio.destination);
  tone.start(audio.currentTime + at);
  tone.stop(audio.currentTime + at + length);
}

export function ring(words: string) {
  for (const at of [0, 0.35, 0.7]) beep(880, at, 0.22, 0.25);
  if ("vibrate" in navigator) navigator.vibrate([300, 150, 300, 150, 300]);
  if (document.hidden) notify(words).catch(() => undefined); // the sound remains
}

/** A light reminder: one soft tone. */
export function remind() {
  beep(560, 0, 0.15, 0.08);
  if ("vibrate" in navigator) navigator.vibrate(80);
}
