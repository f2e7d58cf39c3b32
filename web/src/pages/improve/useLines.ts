import { useCallback, useEffect, useRef, useState } from "react";
import { Refusal } from "../../api/client";
import { askInLines, gathered } from "../../api/lines";

export interface Asking<T> {
  lines: readonly T[];
  /** While an answer comes: the last one that came whole, which it replaces line by line. */
  before: readonly T[];
  busy: boolean;
  says: string | null;
  /** Ask anew; an older question is given up. */
  ask: (path: string, body: unknown) => void;
  cancel: () => void;
}

/** A long question whose answer comes in lines; leaving the page gives it up. */
export function useLines<T>(): Asking<T> {
  const [lines, setLines] = useState<readonly T[]>([]);
  const whole = useRef<readonly T[]>([]);
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
    // The last answer stays in sight until this one begins, and then goes whole: what a question
    // has found is gathered here, not in the state, which is worked out later than it is asked.
    let all: readonly T[] = [];
    const gather = gathered<T>((found) => {
      if (running.current !== mine) return;
      all = found;
      setLines(found);
    });
    askInLines<T>(path, body, mine.signal, gather)
      .then(() => {
        if (!mine.signal.aborted) whole.current = all;
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
  return { lines, before: busy ? whole.current : [], busy, says, ask, cancel };
}
