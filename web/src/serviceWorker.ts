import { clientsClaim } from "workbox-core";
import {
  cleanupOutdatedCaches,
  createHandlerBoundToURL,
  type PrecacheEntry,
  precacheAndRoute,
} from "workbox-precaching";
import { NavigationRoute, registerRoute } from "workbox-routing";

/** All files of this version of the pages; put in when they are built. */
declare const BUILT_FILES: PrecacheEntry[];

/**
 * Keeps the built pages on the device, so that they load and work while the server is away. A newer version waits until
 * somebody asks for it; what the server stores is none of its business.
 */
precacheAndRoute(BUILT_FILES);
cleanupOutdatedCaches();
registerRoute(new NavigationRoute(createHandlerBoundToURL("/index.html"), { denylist: [/^\/api\//] }));
clientsClaim();

addEventListener("message", (event) => {
  const worker = globalThis as unknown as { skipWaiting(): Promise<void> };
  if ((event as MessageEvent).data?.type === "SKIP_WAITING") worker.skipWaiting();
});
