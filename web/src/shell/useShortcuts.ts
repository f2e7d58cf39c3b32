import { use, useEffect, useRef } from "react";
import { useNavigate } from "react-router";
import { SchemeContext, UnitContext, usePlanStore } from "../plan/context";
import { PAGES } from "./pages";
import { singleKeys } from "./singleKeys";

interface Openers {
  onCommands: () => void;
  onHelp: () => void;
  onJudgements: () => void;
}

/** The shortcuts that hold on every page. */
export function useShortcuts(planId: number, openers: Openers): void {
  const store = usePlanStore();
  const navigate = useNavigate();
  const { unit, setUnit } = use(UnitContext);
  const { scheme, setScheme } = use(SchemeContext);

  function act(event: KeyboardEvent): boolean {
    const letter = event.key.toLowerCase();
    if (event.ctrlKey || event.metaKey) {
      if (letter === "k") openers.onCommands();
      else if (isTyping(event.target)) return false;
      else if (letter === "z" && !event.shiftKey) store.undo();
      else if (letter === "y" || (letter === "z" && event.shiftKey)) store.redo();
      else return false;
      return true;
    }
    const busy = document.querySelector("[role=dialog],[role=menu]") !== null;
    if (event.altKey || isTyping(event.target) || busy) return false;
    if (!singleKeys()) return false;
    const page = PAGES[Number(event.key) - 1];
    if (page) navigate(`/plan/${planId}/${page.path}`);
    else if (event.key === "?") openers.onHelp();
    else if (letter === "u") setUnit(unit === "Ah" ? "Wh" : "Ah");
    else if (letter === "n") setScheme(scheme === "day" ? "night" : "day");
    else if (letter === "j") openers.onJudgements();
    else return false;
    return true;
  }

  // The listener is bound once and always calls the newest of these.
  const latest = useRef(act);
  latest.current = act;
  useEffect(() => {
    function key(event: KeyboardEvent) {
      if (!event.defaultPrevented && latest.current(event)) event.preventDefault();
    }
    window.addEventListener("keydown", key);
    return () => window.removeEventListener("keydown", key);
  }, []);
}

function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.tagName === "INPUT" || target.tagName === "TEXTAREA" || target.tagName === "SELECT")
  );
}
