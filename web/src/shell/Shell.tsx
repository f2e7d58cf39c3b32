import { type ReactNode, Suspense, use, useEffect, useState } from "react";
import { Link, NavLink, Outlet, useLocation } from "react-router";
import { UnitContext, usePlanPart, usePlanStore } from "../plan/context";
import { LiveContext, useLiveLine } from "../plan/useLive";
import { useLogRefresh, useTrack } from "../plan/useLog";
import { useLogNews } from "../plan/useLogNews";
import { Button } from "../ui/Button";
import { Choice } from "../ui/fields/Choice";
import { Notice } from "../ui/Notice";
import { useSlow } from "../ui/useSlow";
import { JudgementsButton } from "./header/JudgementsButton";
import { PagesBelow } from "./header/PagesBelow";
import { TrialBar } from "./header/TrialBar";
import { PAGES, TODAY } from "./pages";
import { part } from "./part";
import { loadOtherPages } from "./routes";
import { useShortcuts } from "./useShortcuts";

const AlarmBar = part(() => import("./header/AlarmBar"));
const LevelStrip = part(() => import("./header/LevelStrip"));
const GuidedLook = part(() => import("./header/GuidedLook"));
const TakeBox = part(() => import("./header/TakeBox"));
const PlanMenu = part(() => import("./header/PlanMenu"));
const CommandMenu = part(() => import("./dialogs/CommandMenu"));
const SettingsDialog = part(() => import("./dialogs/SettingsDialog"));
const HelpDialog = part(() => import("./dialogs/HelpDialog"));

export function Shell() {
  const store = usePlanStore();
  // Piece by piece: the header must not be drawn again with every frame of a drag.
  const plan = usePlanPart((state) => state.plan);
  const name = usePlanPart((state) => state.draft.name);
  const problem = usePlanPart((state) => state.problem);
  const saving = usePlanPart((state) => state.saving);
  const { unit, setUnit } = use(UnitContext);
  const { pathname } = useLocation();
  const here = [TODAY, ...PAGES].find((page) => pathname.endsWith(`/${page.path}`));
  // The whole trip in one line stands where one changes what it is made of.
  const changing = here?.path === "use" || here?.path === "box";
  const begun = useTrack()?.begun ?? false;
  const pages = begun || pathname.endsWith("/today") ? [TODAY, ...PAGES] : PAGES;

  // What is not needed for the first answer is loaded when there is time: pages open at once then.
  useEffect(loadOtherPages, []);
  const refreshLog = useLogRefresh();
  useEffect(() => store.onStep(() => void refreshLog()), [store, refreshLog]);
  // What another device writes counts on every page: its numbers, and what undo takes back.
  const live = useLiveLine(plan.id);
  useLogNews(live);
  const [shown, setShown] = useState<"commands" | "help" | "settings" | "judgements" | null>(null);
  const opener = (name: NonNullable<typeof shown>) => (open: boolean) =>
    setShown(open ? name : null);
  useShortcuts(plan.id, {
    onCommands: () => setShown("commands"),
    onHelp: () => setShown("help"),
    onJudgements: () => setShown("judgements"),
  });

  return (
    <LiveContext value={live}>
      <title>{[here?.text, name, "Odd Kettle"].filter(Boolean).join(" - ")}</title>
      <a href="#main" className="skip">
        Skip to the page
      </a>
      <header className="border-b-4 border-sun bg-rim text-on-rim print:hidden">
        <div className="mx-auto flex h-11 max-w-[1320px] items-end gap-x-2 px-3 sm:gap-x-4 sm:px-4">
          <Link to="/" title="Boxes and trips" className="flex h-11 items-center gap-2">
            <img src="/kettle.svg" alt="" className="size-7" />
            <span className="sr-only font-head text-lg font-bold lg:not-sr-only">Odd Kettle</span>
            <span className="sr-only">: boxes and trips</span>
          </Link>
          <nav aria-label="Pages" className="hidden gap-1 sm:flex">
            {pages.map((page) => (
              <NavLink
                key={page.path}
                to={`/plan/${plan.id}/${page.path}`}
                className={({ isActive }) =>
                  `flex h-9 items-center rounded-t-xl px-3 font-head font-semibold lg:px-3.5 ${
                    isActive ? "bg-enamel text-ink" : "text-on-rim hover:bg-rim-soft"
                  }`
                }
              >
                {page.text}
              </NavLink>
            ))}
          </nav>
          <div className="ml-auto flex h-11 min-w-0 flex-1 items-center justify-end gap-1 sm:gap-1.5">
            <Button
              aria-label="Undo"
              title={`Undo${plan.can_undo ? `: ${plan.did}` : ""} (Ctrl+Z)`}
              disabled={!plan.can_undo}
              onClick={store.undo}
            >
              ↶
            </Button>
            <Button
              aria-label="Redo"
              className="max-sm:hidden"
              title="Redo (Ctrl+Y)"
              disabled={!plan.can_redo}
              onClick={store.redo}
            >
              ↷
            </Button>
            <span className="hidden lg:inline">
              <Choice
                label="Unit"
                oneLine
                value={unit}
                options={[
                  { value: "Ah", text: "Ah" },
                  { value: "Wh", text: "Wh" },
                ]}
                onChange={setUnit}
              />
            </span>
            <JudgementsButton open={shown === "judgements"} onOpenChange={opener("judgements")} />
            <Suspense fallback={<PlanName name={name} />}>
              <PlanMenu name={name} saving={saving} />
            </Suspense>
            <Button
              aria-label="Commands, units and habits, shortcuts"
              title="Commands (Ctrl+K)"
              onClick={() => setShown("commands")}
            >
              ⋯
            </Button>
          </div>
        </div>
      </header>
      <Main>
        {problem && (
          <Notice
            problem={problem}
            onDismiss={store.dismiss}
            onReload={store.reload}
            onRetry={() => store.commit(store.snapshot().draft, "changed")}
          />
        )}
        {begun && (
          <Suspense fallback={null}>
            <AlarmBar begun={begun} />
          </Suspense>
        )}
        <TrialBar />
        {plan.box_behind && (
          <Suspense fallback={null}>
            <TakeBox />
          </Suspense>
        )}
        {changing && (
          <Suspense fallback={<div className="mt-2 h-12" />}>
            <LevelStrip />
          </Suspense>
        )}
        <Suspense fallback={null}>
          <GuidedLook />
        </Suspense>
        <Suspense fallback={null}>
          <Outlet />
        </Suspense>
      </Main>
      <PagesBelow
        pages={pages}
        onSettings={() => setShown("settings")}
        onHelp={() => setShown("help")}
      />
      <Suspense fallback={null}>
        {shown === "commands" && (
          <CommandMenu
            open
            onOpenChange={opener("commands")}
            onSettings={() => setShown("settings")}
            onHelp={() => setShown("help")}
          />
        )}
        {shown === "settings" && <SettingsDialog open onOpenChange={opener("settings")} />}
        {shown === "help" && <HelpDialog open onOpenChange={opener("help")} />}
      </Suspense>
    </LiveContext>
  );
}

/** Where the plan's menu will be, until its script is there. */
function PlanName({ name }: { name: string }) {
  return (
    <span className="key min-w-0 max-w-64 shrink">
      <span className="truncate">{name}</span>
      <span aria-hidden="true">▾</span>
    </span>
  );
}

/** Says to those who cannot see the figures move that they are still being worked out. */
function Main({ children }: { children: ReactNode }) {
  const behind = usePlanPart((state) => state.behind);
  const slow = useSlow(behind);
  return (
    <main
      id="main"
      tabIndex={-1}
      aria-busy={behind}
      className={`mx-auto max-w-[1320px] px-3 pb-10 sm:px-4 ${slow ? "not-current" : ""}`}
    >
      {children}
      {slow && (
        <p role="status" className="working">
          Working it out: the figures are those of before.
          <span aria-hidden="true" className="mt-1 block h-1 overflow-hidden rounded bg-line">
            <span className="block h-full w-1/3 animate-pulse bg-rim" />
          </span>
        </p>
      )}
    </main>
  );
}
