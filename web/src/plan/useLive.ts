import { createContext, use, useEffect, useState } from "react";
import type { MonitorState } from "../api/client";

export interface Live {
  state: MonitorState | null;
  /** Whether the app itself answers. */
  open: boolean;
}

const SILENT: Live = { state: null, open: false };

/** What the one line to the server says of the plan that is open, for every page of it. */
export const LiveContext = createContext<Live>(SILENT);
export const useLive = (): Live => use(LiveContext);

/** The monitor's state, as it comes; the browser calls again by itself when the line breaks. */
export function useLiveLine(planId: number): Live {
  const [live, setLive] = useState<Live>(SILENT);
  useEffect(() => {
    let events: EventSource | null = null;
    // A browser has few lines to one server: a page that nobody looks at holds none.
    function look() {
      if (document.hidden) {
        events?.close();
        events = null;
      } else if (!events) {
        events = new EventSource(`/api/plans/${planId}/live`);
        events.onopen = () => setLive((old) => ({ ...old, open: true }));
        events.onerror = () => setLive((old) => ({ ...old, open: false }));
        events.onmessage = (event) => setLive({ state: JSON.parse(event.data), open: true });
      }
    }
    look();
    document.addEventListener("visibilitychange", look);
    return () => {
      document.removeEventListener("visibilitychange", look);
      events?.close();
    };
  }, [planId]);
  return live;
}
