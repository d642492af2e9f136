/**
 * Keeps this page and what it is made of in the browser, so that it opens at a site where no server answers. Browsers
 * allow it on this machine's own names and over https only; elsewhere nothing happens.
 */
export function startWithoutServer(): void {
  if (!("serviceWorker" in navigator) || !import.meta.env.PROD) return;
  void navigator.serviceWorker.register("/field-worker.js", { scope: "/field/" }).catch(() => {});
}
