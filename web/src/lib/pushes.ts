/** Messages to this browser (W3C Push API): whether it can, asking for them, and ending them. */

export type Able = "yes" | "refused" | "no";

/** Whether this browser can show messages, and whether its owner has refused them. */
export function able(): Able {
  if (!("serviceWorker" in navigator) || !("PushManager" in globalThis) || !("Notification" in globalThis)) return "no";
  return Notification.permission === "denied" ? "refused" : "yes";
}

/** The mark by which the server's list knows this browser; null where it shows nothing. */
export async function markHere(): Promise<string | null> {
  if (able() === "no") return null;
  const registration = await navigator.serviceWorker.getRegistration("/");
  const found = await registration?.pushManager.getSubscription();
  return found ? markOf(found.endpoint) : null;
}

async function markOf(endpoint: string): Promise<string> {
  const digest = await crypto.subtle.digest("SHA-256", new TextEncoder().encode(endpoint));
  return [...new Uint8Array(digest)]
    .map((one) => one.toString(16).padStart(2, "0"))
    .join("")
    .slice(0, 16);
}

/** Ask the browser for a subscription. Throws with words where it is refused or not to be had. */
export async function subscribe(key: string): Promise<PushSubscriptionJSON> {
  if ((await Notification.requestPermission()) !== "granted")
    throw new Error("This browser was told to show nothing. Its settings for this page say so.");
  await navigator.serviceWorker.register("/worker.js");
  const registration = await navigator.serviceWorker.ready;
  const applicationServerKey = bytes(key);
  try {
    return (await registration.pushManager.subscribe({ userVisibleOnly: true, applicationServerKey })).toJSON();
  } catch {
    throw new Error("This browser's own service for messages cannot be reached. Try again later.");
  }
}

/** Let this browser show nothing any more. */
export async function unsubscribe(): Promise<void> {
  const registration = await navigator.serviceWorker.getRegistration("/");
  await (await registration?.pushManager.getSubscription())?.unsubscribe();
}

function bytes(base64url: string): Uint8Array<ArrayBuffer> {
  const text = atob(base64url.replace(/-/g, "+").replace(/_/g, "/"));
  return Uint8Array.from(text, (sign) => sign.charCodeAt(0));
}
