import { useCallback, useEffect, useRef, useState } from "react";
import { Refusal } from "../../api/client";
import { askInLines, gathered } from "../../api/lines";

export interface Asking<T> {
  lines: readonly T[];
  /** While an answer comes: the last line of each key that came before, which it replaces. */
  before: readonly T[];
  busy: boolean;
  /** What stands there belongs to the question before: to be seen, not to be acted on. */
  stale: boolean;
  text: string | null;
  /** Ask anew; an older question is given up. */
  ask: (path: string, body: unknown) => void;
  cancel: () => void;
}

const NO_KEY = () => null;

/**
 * A long question whose answer comes in lines; leaving the page gives it up. Lines with a key are
 * kept while a later answer comes, also where the one before was given up half-way.
 */
export function useLines<T>(keyOf: (line: T) => string | null = NO_KEY): Asking<T> {
  const [lines, setLines] = useState<readonly T[]>([]);
  const [busy, setBusy] = useState(false);
  const [stale, setStale] = useState(false);
  const [text, setText] = useState<string | null>(null);
  const running = useRef<AbortController | null>(null);
  const kept = useRef<ReadonlyMap<string, T>>(new Map());

  const cancel = useCallback(() => {
    running.current?.abort();
    running.current = null;
    setBusy(false);
  }, []);

  const ask = useCallback(
    (path: string, body: unknown) => {
      running.current?.abort();
      const mine = new AbortController();
      running.current = mine;
      setBusy(true);
      setStale(true);
      setText(null);
      // The last answer stays in sight until this one begins, and then goes whole: what a question
      // has found is gathered here, not in the state, which is worked out later than it is asked.
      let all: readonly T[] = [];
      const gather = gathered<T>((found) => {
        if (running.current !== mine) return;
        all = found;
        setStale(false);
        kept.current = new Map([...kept.current, ...keyed(found, keyOf)]);
        setLines(found);
      });
      askInLines<T>(path, body, mine.signal, gather)
        .then(() => {
          if (running.current === mine) kept.current = new Map(keyed(all, keyOf));
        })
        .catch((error: unknown) => {
          if (running.current !== mine) return;
          setText(error instanceof Refusal ? error.message : String(error));
          setLines([]);
        })
        .finally(() => {
          if (running.current === mine) setBusy(false);
        });
    },
    [keyOf],
  );

  useEffect(() => () => running.current?.abort(), []);
  const before = busy ? [...kept.current.values()] : [];
  return { lines, before, busy, stale, text, ask, cancel };
}

function keyed<T>(lines: readonly T[], keyOf: (line: T) => string | null): [string, T][] {
  return lines.flatMap((line) => {
    const key = keyOf(line);
    return key === null ? [] : [[key, line] satisfies [string, T]];
  });
}
