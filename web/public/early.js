// Asks for the first answer and for the page's own scripts while the first script is still being
// loaded. `src/api/early.ts` hands the answers to whoever asks for the same; nothing breaks without.
(() => {
  const at = /^\/plan\/(\d+)(?:\/(\w+))?/.exec(location.pathname);
  if (!at) return;
  const plan = at[1];
  const asked = new Map();
  for (const part of ["", "/report", "/track", "/log"]) {
    const path = `/api/plans/${plan}${part}`;
    const promise = fetch(path);
    promise.catch(() => undefined);
    asked.set(`GET ${path}`, promise);
  }
  window.oddkettleEarly = asked;
  const named = document.getElementById("page-scripts");
  for (const file of JSON.parse(named?.textContent || "{}")[at[2] ?? "trip"] ?? []) {
    const link = document.createElement("link");
    link.rel = "modulepreload";
    link.href = `/${file}`;
    document.head.append(link);
  }
})();
