import { useEffect, useState } from "react";
import type { MonitorState } from "../../api/client";

export interface Live {
  state: MonitorState | null;
  /** Whether the app itself answers. */
  open: boolean;
}

/** The monitor's state, as it comes; the browser calls again by itself when the line breaks. */
export function useLive(planId: number): Live {
  const [live, setLive] = useState<Live>({ state: null, open: false });
  useEffect(() => {
    const events = new EventSource(`/api/plans/${planId}/live`);
    events.onopen = () => setLive((old) => ({ ...old, open: true }));
    events.onerror = () => setLive((old) => ({ ...old, open: false }));
    events.onmessage = (event) => setLive({ state: JSON.parse(event.data), open: true });
    return () => events.close();
  }, [planId]);
  return live;
}
