// Keeps the page “On set” and what it loads, so that it opens without a line. Only that page; all else goes to the server as ever.
const name = "on-set";
const isPage = (url) => /^\/productions\/\d+\/onset$/.test(url.pathname) && url.search === "";
const isPart = (url) => /^\/(js|css|lib|img)\//.test(url.pathname);

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));
self.addEventListener("fetch", (event) => {
  const url = new URL(event.request.url);
  if (event.request.method !== "GET" || url.origin !== self.location.origin || !(isPage(url) || isPart(url))) {
    return;
  }
  event.respondWith(
    (async () => {
      const kept = await caches.open(name);
      try {
        const answer = await fetch(event.request);
        if (answer.ok) {
          await kept.put(event.request, answer.clone());
        }
        return answer;
      } catch (lost) {
        const before = await kept.match(event.request, { ignoreVary: true });
        if (before) {
          return before;
        }
        throw lost;
      }
    })(),
  );
});
