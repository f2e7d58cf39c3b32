import { useSyncExternalStore } from "react";

const NARROW = "(max-width: 1023px)";

function listen(tell: () => void): () => void {
  const media = window.matchMedia?.(NARROW);
  media?.addEventListener("change", tell);
  return () => media?.removeEventListener("change", tell);
}

/** Whether there is room for one column only: what stands beside the page on a desk opens over it. */
export function useNarrow(): boolean {
  return useSyncExternalStore(listen, () => window.matchMedia?.(NARROW).matches ?? false);
}
