/* Counts visits for this site's owner. No cookies; nothing at all where Do Not Track or Global Privacy Control is on.
   dakika.event(name, value, order) tells of an event; dakika.remember(true) keeps a random number in this browser,
   after the visitor has agreed; dakika.remember(false) throws it away. */
(function (w, d, n) {
  var s = d.currentScript, key = s && s.dataset.site, at = s && new URL(s.src).origin + "/collect/" + key, last;
  var off = !key || n.globalPrivacyControl || n.doNotTrack === "1" || w.doNotTrack === "1";
  function kept() {
    try { return w.localStorage.getItem("dakika") || ""; } catch (e) { return ""; }
  }
  function tell(body) {
    if (off) return;
    body.u = w.location.href;
    body.i = kept();
    var text = JSON.stringify(body);
    if (!(n.sendBeacon && n.sendBeacon(at, text))) fetch(at, { method: "POST", body: text, keepalive: true, mode: "no-cors" });
  }
  function page() {
    var here = w.location.pathname + w.location.search;
    if (here === last) return;
    tell({ r: last === undefined ? d.referrer : "" });
    last = here;
  }
  w.dakika = {
    event: function (name, value, order) { tell({ e: String(name), v: value, k: order }); },
    remember: function (yes) {
      try {
        if (!yes) w.localStorage.removeItem("dakika");
        else if (!kept() && !off)
          w.localStorage.setItem("dakika", Array.from(crypto.getRandomValues(new Uint8Array(16)), function (b) {
            return (b + 256).toString(16).slice(1);
          }).join(""));
      } catch (e) { /* a browser that keeps nothing */ }
    }
  };
  var push = w.history.pushState;
  w.history.pushState = function () { push.apply(this, arguments); page(); };
  w.addEventListener("popstate", page);
  page();
})(window, document, navigator);
