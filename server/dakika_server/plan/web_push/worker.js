/* Shows a brand's messages. HOME and KEY stand above. A message that comes again takes the place of itself. */
self.addEventListener("push", function (event) {
  var told = event.data ? event.data.json() : {};
  event.waitUntil(self.registration.showNotification(told.title || "", {
    body: told.text || "", tag: told.tag, data: { address: told.address }
  }).then(function () {
    if (told.token) return fetch(HOME + "/shown/" + told.token, { method: "POST" }).catch(function () {});
  }));
});
self.addEventListener("notificationclick", function (event) {
  event.notification.close();
  var address = event.notification.data && event.notification.data.address;
  if (address) event.waitUntil(self.clients.openWindow(address));
});
self.addEventListener("pushsubscriptionchange", function (event) {
  var old = event.oldSubscription;
  if (!old) return;
  event.waitUntil(self.registration.pushManager.subscribe(old.options).then(function (one) {
    return fetch(HOME + "/" + KEY + "/subscribers", { method: "POST", body: JSON.stringify(one.toJSON()) });
  }).then(function () {
    return fetch(HOME + "/" + KEY + "/leave", { method: "POST", body: JSON.stringify({ endpoint: old.endpoint }) });
  }));
});
