import { registerSW } from "virtual:pwa-register";

const ANSWERS = "bench";

/** Where the browser allows it (on this computer, and over TLS) the screens open without a network too. At a first visit the worker comes after the answers: they are asked for once more, so that it keeps them. */
export function keepForOffline(askOnceMore: () => void) {
  if (!("serviceWorker" in navigator)) return;
  if (!navigator.serviceWorker.controller)
    navigator.serviceWorker.addEventListener("controllerchange", askOnceMore, { once: true });
  registerSW({ immediate: true });
}

/** What this device has seen and kept; it goes when the device is put out or leaves. */
export async function forgetAnswers() {
  if ("caches" in window) await caches.delete(ANSWERS);
}

/** Some phones allow notifications only from the worker in the background. */
export async function notify(words: string) {
  if (!("Notification" in window) || Notification.permission !== "granted") return;
  const worker = await navigator.serviceWorker?.getRegistration();
  if (worker) await worker.showNotification("Zesty Grid", { body: words, tag: words });
  else new Notification("Zesty Grid", { body: words, tag: words });
}
