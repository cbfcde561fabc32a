/** What a device handed over and the browser keeps until it is taken up (public/worker.js). */

const KEPT = "dakika-shared";

/** The worker that takes what is handed over; where a browser has none, addresses alone can be. */
export function registerShareWorker(): void {
  navigator.serviceWorker?.register("/worker.js").catch(() => undefined);
}

/** Pictures that were handed over, once: they are no longer kept then. */
export async function takePictures(): Promise<File[]> {
  if (!("caches" in globalThis)) return [];
  const cache = await caches.open(KEPT);
  const files: File[] = [];
  for (const request of await cache.keys()) {
    const kept = await cache.match(request);
    if (!kept) continue;
    const name = decodeURIComponent(kept.headers.get("x-name") ?? "") || "picture";
    files.push(new File([await kept.blob()], name, { type: kept.headers.get("content-type") ?? "" }));
  }
  await caches.delete(KEPT);
  return files;
}
