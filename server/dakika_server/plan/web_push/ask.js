/* Asks for a brand's messages, where the visitor presses a button: <button data-messages>. Nothing is asked by itself.
   A button says in data-state how it stands: unable, refused, off, on; its words are those of data-WORD, where given. */
(function (w, d, n) {
  var s = d.currentScript, key = s && s.dataset.push, worker = s && s.dataset.worker, scope = s && s.dataset.scope;
  var home = s && new URL(s.src).origin + "/push/" + key;
  if (!key || !worker) return;
  var able = "serviceWorker" in n && "PushManager" in w && "Notification" in w;
  function bytes(text) {
    var raw = atob(text.replace(/-/g, "+").replace(/_/g, "/"));
    return Uint8Array.from(raw, function (c) { return c.charCodeAt(0); });
  }
  function send(where, what) {
    return fetch(home + where, { method: "POST", body: JSON.stringify(what) }).then(function (answer) {
      if (!answer.ok) throw new Error("answered with " + answer.status);
    });
  }
  function registered() {
    return n.serviceWorker.register(worker, scope ? { scope: scope } : {}).then(function (one) {
      return one.active ? one : new Promise(function (done) {
        var coming = one.installing || one.waiting;
        coming.addEventListener("statechange", function () { if (coming.state === "activated") done(one); });
      });
    });
  }
  function known() {
    return n.serviceWorker.getRegistration(scope || worker).then(function (one) {
      return one ? one.pushManager.getSubscription() : null;
    });
  }
  function on() {
    return fetch(home + "/key").then(function (answer) { return answer.json(); }).then(function (told) {
      return registered().then(function (one) {
        return one.pushManager.subscribe({ userVisibleOnly: true, applicationServerKey: bytes(told.key) });
      });
    }).then(function (one) { return send("/subscribers", one.toJSON ? one.toJSON() : one); });
  }
  function off() {
    return known().then(function (one) {
      if (!one) return;
      var told = { endpoint: one.endpoint };
      return one.unsubscribe().then(function () { return send("/leave", told); });
    });
  }
  function draw(state) {
    d.querySelectorAll("[data-messages]").forEach(function (button) {
      button.dataset.state = state;
      if (button.dataset[state]) button.textContent = button.dataset[state];
      button.disabled = state === "unable" || state === "refused";
    });
    d.dispatchEvent(new CustomEvent("messages", { detail: state }));
  }
  function look() {
    if (!able) return draw("unable");
    if (Notification.permission === "denied") return draw("refused");
    return known().then(function (one) { draw(one ? "on" : "off"); });
  }
  d.addEventListener("click", function (event) {
    var button = event.target.closest && event.target.closest("[data-messages]");
    if (!button || button.disabled) return;
    (button.dataset.state === "on" ? off() : on()).then(look, function () {
      look();
      d.dispatchEvent(new CustomEvent("messages", { detail: "failed" }));
    });
  });
  look();
})(window, document, navigator);
