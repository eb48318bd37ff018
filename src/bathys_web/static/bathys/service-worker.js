// Answers for pages of the log that this device keeps while there is no signal. Every other page,
// and all that is sent, goes its own way.
const KEPT = "bathys-offline-log";
const PATIENCE = 4000; // for the network, before the kept page is shown [ms]
const IS_LOG = /^\/plans\/[0-9a-f-]+\/run\/offline\/$/;
const SERVER_FAULT = 500;

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));

const fromNetwork = async (request) => {
  const answer = await fetch(request, { signal: AbortSignal.timeout(PATIENCE) });
  if (answer.status >= SERVER_FAULT) throw new Error("the server does not answer");
  return answer;
};

const page = async (request) => {
  const kept = await (await caches.open(KEPT)).match(request, { ignoreSearch: true });
  if (!kept) return fetch(request);
  return fromNetwork(request).catch(() => kept);
};

const piece = async (request) => (await (await caches.open(KEPT)).match(request)) ?? fetch(request);

self.addEventListener("fetch", (event) => {
  const { request } = event;
  const { origin, pathname } = new URL(request.url);
  if (request.method !== "GET" || origin !== self.location.origin) return;
  if (request.mode === "navigate") {
    if (IS_LOG.test(pathname)) event.respondWith(page(request));
  } else if (pathname.startsWith("/static/")) event.respondWith(piece(request));
});
