import { useEffect, useRef } from "react";
import type { Live } from "./useLive";
import { useLogRefresh } from "./useLog";

/** Whatever hangs on the log is asked for anew when it changed, whoever wrote it. */
export function useLogNews(live: Live): void {
  const refresh = useLogRefresh();
  const seen = useRef<number | null>(null);
  // The watch over the trip may find an alarm while nobody writes anything.
  const now = live.state ? live.state.log_news + live.state.alarm_news : null;
  useEffect(() => {
    if (now === null) return;
    if (seen.current !== null && seen.current !== now) void refresh();
    seen.current = now;
  }, [now, refresh]);
}
