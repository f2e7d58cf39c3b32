import { useEffect, useState } from "react";

const SLOW_MS = 300;

/** Whether something has been going on for longer than one notices. */
export function useSlow(going: boolean): boolean {
  const [slow, setSlow] = useState(false);
  useEffect(() => {
    if (!going) {
      setSlow(false);
      return;
    }
    const timer = setTimeout(() => setSlow(true), SLOW_MS);
    return () => clearTimeout(timer);
  }, [going]);
  return slow && going;
}
