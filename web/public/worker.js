/*
 * The application's worker in the browser: it shows notices, and takes what a device hands over.
 *
 * What a device hands over to the application (Web Share Target, level 2) comes as a form. It is kept in the browser
 * until the page has taken it up: nothing is sent anywhere before somebody keeps it as an idea.
 */
const KEPT = "dakika-shared";
const MOST = 10;

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));
self.addEventListener("fetch", (event) => {
  const url = new URL(event.request.url);
  if (event.request.method !== "POST" || url.origin !== self.location.origin || url.pathname !== "/share") return;
  // What cannot be read or kept is told; nobody is left before an empty page.
  event.respondWith(take(event.request).catch(() => Response.redirect("/share?lost=1", 303)));
});

async function take(request) {
  const form = await request.formData();
  const words = new URLSearchParams();
  for (const name of ["title", "text", "url"]) {
    const value = form.get(name);
    if (typeof value === "string" && value) words.set(name, value.slice(0, 4000));
  }
  const pictures = form.getAll("pictures").filter((one) => one instanceof File && one.size > 0);
  if (pictures.length > 0) {
    await caches.delete(KEPT);
    const cache = await caches.open(KEPT);
    for (const [i, file] of pictures.slice(0, MOST).entries()) {
      const headers = { "content-type": file.type, "x-name": encodeURIComponent(file.name) };
      await cache.put(`/share/picture/${i}`, new Response(file, { headers }));
    }
    words.set("pictures", String(Math.min(pictures.length, MOST)));
  }
  return Response.redirect(`/share?${words}`, 303);
}

// A notice that comes again takes the place of itself.
self.addEventListener("push", (event) => {
  const told = event.data ? event.data.json() : {};
  event.waitUntil(
    self.registration.showNotification(told.title || "Dakika", {
      body: told.text || "",
      tag: told.tag,
      icon: "/mark.svg",
      data: { address: told.address },
    }),
  );
});

self.addEventListener("notificationclick", (event) => {
  event.notification.close();
  const address = event.notification.data?.address;
  if (address && new URL(address).origin === self.location.origin) event.waitUntil(open(address));
});

// A page that is open already goes there; another one is opened where none is.
async function open(address) {
  const pages = await self.clients.matchAll({ type: "window" });
  const page = pages.find((one) => "navigate" in one);
  if (!page) return self.clients.openWindow(address);
  await page.focus();
  return page.navigate(address);
}
