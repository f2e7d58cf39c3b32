import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { type ReactNode, Suspense, use, useEffect, useRef, useState } from "react";
import { BrowserRouter, Navigate, Route, Routes, useParams } from "react-router";
import { isAway } from "../away/isAway";
import { Patterns } from "../drawing/Patterns";
import { type Cursor, CursorContext, PlanStoreContext } from "../plan/context";
import { PlanStore } from "../plan/planStore";
import { minutesOf } from "../quantities/clock";
import { ReaderContext } from "../quantities/useHabits";
import { SourcePatterns } from "../sources/SourceStyles";
import { HabitsProvider } from "./Habits";
import { PAGES } from "./pages";
import { part } from "./part";
import { loadPageAt, Outside, PageAt } from "./routes";
import { Shell } from "./Shell";
import { SumProvider } from "./SumProvider";

const AwayPage = part(async () => ({ default: (await import("../away/AwayPage")).AwayPage }));
const queries = new QueryClient({
  defaultOptions: {
    queries: {
      // A server that is out of reach is not asked twice before that is said.
      retry: (failures, error) => failures < 1 && !isAway(error),
      refetchOnWindowFocus: false,
      networkMode: "always",
    },
  },
});
const LAST_PLAN = "oddkettle.plan";

export function App() {
  return (
    <QueryClientProvider client={queries}>
      <HabitsProvider>
        <Patterns>
          <SourcePatterns />
        </Patterns>
        <BrowserRouter>
          <Routes>
            <Route path="/" element={<Outside page="start" />} />
            <Route path="/help" element={<Outside page="help" />} />
            <Route path="/status" element={<Outside page="status" />} />
            <Route path="/pair" element={<Outside page="pair" />} />
            <Route path="/practise" element={<Outside page="practise" />} />
            <Route path="/plan/:planId" element={<OnePlan />}>
              <Route index element={<Navigate to="trip" replace />} />
              <Route path="today" element={<PageAt path="today" />} />
              {PAGES.map(({ path }) => (
                <Route key={path} path={path} element={<PageAt path={path} />} />
              ))}
            </Route>
            <Route path="*" element={<Navigate to="/" replace />} />
          </Routes>
        </BrowserRouter>
      </HabitsProvider>
    </QueryClientProvider>
  );
}

function OnePlan() {
  const planId = Number(useParams().planId);
  const store = useQuery({
    queryKey: ["store", planId],
    queryFn: async () => {
      localStorage.setItem(LAST_PLAN, String(planId));
      const [opened] = await Promise.all([
        PlanStore.open(planId),
        loadPageAt(window.location.pathname),
      ]);
      return opened;
    },
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
  });
  useReread(store.data);
  if (isAway(store.error))
    return (
      <Suspense fallback={<Waiting />}>
        <AwayPage planId={planId} onBack={() => void store.refetch()} />
      </Suspense>
    );
  if (store.error) {
    return (
      <Message title="This plan cannot be opened">
        {store.error.message}{" "}
        <a className="underline" href="/" onClick={() => localStorage.removeItem(LAST_PLAN)}>
          Open another
        </a>
      </Message>
    );
  }
  if (!store.data) return <Waiting />;
  return (
    <PlanStoreContext value={store.data}>
      <AtCursor key={planId} store={store.data}>
        <SumProvider>
          <Shell />
        </SumProvider>
      </AtCursor>
    </PlanStoreContext>
  );
}

/** Sentences are asked for anew when their reader writes otherwise. */
function useReread(store: PlanStore | undefined) {
  const reader = use(ReaderContext);
  const asked = useRef(reader);
  useEffect(() => {
    if (asked.current === reader) return;
    asked.current = reader;
    store?.refetchText();
  }, [store, reader]);
}

/** The moment that is looked at stays the same from page to page. */
function AtCursor({ store, children }: { store: PlanStore; children: ReactNode }) {
  const [cursor, setCursor] = useState<Cursor>(() => {
    const { verdict } = store.snapshot().run;
    return { day: verdict.lowest_day, minute: minutesOf(verdict.lowest_at.slice(11, 16)) };
  });
  return <CursorContext value={{ cursor, setCursor }}>{children}</CursorContext>;
}

function Waiting() {
  return <p className="p-8 text-ash">Putting the kettle on…</p>;
}

function Message({ title, children }: { title: string; children: ReactNode }) {
  return (
    <main className="mx-auto mt-16 max-w-lg px-4">
      <div className="plate p-6">
        <h1 className="mb-2 text-xl">{title}</h1>
        {children}
      </div>
    </main>
  );
}
