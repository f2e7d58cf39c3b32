import { useEffect, useState } from "react";
import { useLocation } from "react-router";
import { Button } from "../../ui/Button";

interface Note {
  /** What it points at. */
  at: string;
  text: string;
}

/** Three short notes a page, each at a real thing on it. */
const NOTES: Record<string, readonly Note[]> = {
  use: [
    { at: "[data-lane]", text: "A lane for each thing. Drag its bar to change when it runs." },
    { at: "[aria-label='Shelf']", text: "Press a typical thing to add it; its figure is a guess." },
    {
      at: "[data-head]",
      text: "What a day takes. Press a figure to see its sum.",
    },
  ],
  box: [
    {
      at: "[aria-label='The box, drawn']",
      text: "From the left what charges, in the middle what it holds.",
    },
    {
      at: "[aria-label='Sheet of the chosen part']",
      text: "The sheet of the part that you pressed. Every figure can be set here.",
    },
    { at: "h1", text: "What limits this box, in one sentence." },
  ],
  trip: [
    { at: "[data-testid='headline']", text: "The answer: will it last, and how sure is that." },
    {
      at: "[data-testid='trip-curve']",
      text: "The green line is the level, the band its doubt. Press a day to see it below.",
    },
    {
      at: "[data-plot]",
      text: "Drives and panels are blocks. Drag them and see what changes.",
    },
  ],
  improve: [
    { at: "[data-head]", text: "The easiest fix, and the button that applies it." },
    {
      at: "[aria-label='Ways to improve']",
      text: "What fixes it, what to buy, two plans compared.",
    },
    { at: "[data-testid='changes']", text: "Try a change: nothing is kept until you apply it." },
  ],
  log: [
    { at: "form", text: "Enter what you read or did. The level is tracked from it." },
    {
      at: "[aria-label='Parts of the log']",
      text: "What was learned of your guesses stands there.",
    },
    { at: "main h1", text: "Where it stands now, with its doubt." },
  ],
  build: [
    { at: "[data-testid='headline']", text: "What to fix before it is built." },
    { at: "[aria-label='Parts of the building']", text: "Circuits, parts, fit, checks, faults." },
    { at: "main table, main section", text: "Each cable and fuse opens to how it was worked out." },
  ],
};
const LOOKED = "oddkettle.looked";

function looked(): string[] {
  return (localStorage.getItem(LOOKED) ?? "").split(",").filter(Boolean);
}

/** The first time on a page: notes that point at things on it; skipped once, they never return. */
export default function GuidedLook() {
  const page = useLocation().pathname.split("/").at(-1) ?? "";
  const [at, setAt] = useState(0);
  const [done, setDone] = useState(looked);
  const notes = NOTES[page] ?? [];
  const shown = !done.includes("all") && !done.includes(page) && notes.length > 0;
  const note = shown ? notes[Math.min(at, notes.length - 1)] : undefined;

  useEffect(() => {
    if (!note) return;
    let target: Element | null = null;
    // What it points at may come later than the note: a page is worked out meanwhile.
    const watch = new MutationObserver(point);
    function point() {
      target = document.querySelector(note?.at ?? "");
      if (!target) return;
      watch.disconnect();
      target.classList.add("looked-at");
    }
    watch.observe(document.body, { childList: true, subtree: true });
    point();
    return () => {
      watch.disconnect();
      target?.classList.remove("looked-at");
    };
  }, [note]);

  if (!note) return null;
  function finish(all: boolean) {
    const next = [...looked(), all ? "all" : page];
    localStorage.setItem(LOOKED, next.join(","));
    setDone(next);
    setAt(0);
  }
  const last = at >= notes.length - 1;
  return (
    <aside
      aria-label="First look at this page"
      className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1 rounded-xl border-2 border-sun bg-plate px-3 py-1.5 print:hidden"
    >
      <p aria-live="polite">
        <strong>
          {at + 1} of {notes.length}.
        </strong>{" "}
        {note.text}
      </p>
      <div className="ml-auto flex flex-wrap items-center gap-3">
        <Button onClick={() => (last ? finish(false) : setAt(at + 1))}>
          {last ? "Done" : "Next"}
        </Button>
        <Button look="link" onClick={() => finish(true)}>
          Skip all notes
        </Button>
      </div>
    </aside>
  );
}
