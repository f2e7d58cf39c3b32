import { useCallback, useEffect, useRef, useState } from "react";
import { Refusal } from "../../api/client";
import { askInLines } from "../../api/lines";

export interface Asking<T> {
  lines: readonly T[];
  busy: boolean;
  says: string | null;
  /** Ask anew; an older question is given up. */
  ask: (path: string, body: unknown) => void;
  cancel: () => void;
}

/** A long question whose answer comes in lines; leaving the page gives it up. */
export function useLines<T>(): Asking<T> {
  const [lines, setLines] = useState<readonly T[]>([]);
  const [busy, setBusy] = useState(false);
  const [says, setSays] = useState<string | null>(null);
  const running = useRef<AbortController | null>(null);

  const cancel = useCallback(() => {
    running.current?.abort();
    running.current = null;
    setBusy(false);
  }, []);

  const ask = useCallback((path: string, body: unknown) => {
    running.current?.abort();
    const mine = new AbortController();
    running.current = mine;
    setBusy(true);
    setSays(null);
    let fresh = true;
    askInLines<T>(path, body, mine.signal, (line) => {
      if (running.current !== mine) return;
      // The last answer stays in sight until the next one begins.
      setLines((before) => (fresh ? [line] : [...before, line]));
      fresh = false;
    })
      .catch((error: unknown) => {
        if (running.current !== mine) return;
        setSays(error instanceof Refusal ? error.message : String(error));
        setLines([]);
      })
      .finally(() => {
        if (running.current === mine) setBusy(false);
      });
  }, []);

  useEffect(() => () => running.current?.abort(), []);
  return { lines, busy, says, ask, cancel };
}
