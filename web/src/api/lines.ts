import { type Problem, Refusal } from "./client";

/**
 * Asks a long question and hands over each line of the answer as it comes. Ends early, and ends
 * the work on the other side, when the signal is aborted.
 */
export async function askInLines<T>(
  path: string,
  body: unknown,
  signal: AbortSignal,
  onLine: (line: T) => void,
): Promise<void> {
  let response: Response;
  try {
    response = await fetch(path, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(body),
      signal,
    });
  } catch (error) {
    if (signal.aborted) return;
    throw new Refusal({
      type: "about:blank",
      title: "No answer",
      status: 0,
      detail: `Odd Kettle does not answer (${String(error)}). Is it still running?`,
      complaints: [],
    });
  }
  if (!response.ok || !response.body) throw new Refusal((await response.json()) as Problem);
  const reader = response.body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = "";
  try {
    for (;;) {
      const { value, done } = await reader.read();
      if (done) return;
      const parts = (rest + value).split("\n");
      rest = parts.pop() ?? "";
      for (const part of parts) onLine(JSON.parse(part) as T);
    }
  } catch (error) {
    if (!signal.aborted) throw error;
  }
}

/** Takes lines one by one and hands over, at each, a list of all that came through it so far. */
export function gathered<T>(onList: (lines: readonly T[]) => void): (line: T) => void {
  let found: readonly T[] = [];
  return (line) => {
    found = [...found, line];
    onList(found);
  };
}
