import { type ComponentType, Suspense } from "react";
import type { PAGES } from "./pages";
import { arriving, part } from "./part";

type Path = (typeof PAGES)[number]["path"] | "today";

/** Each page's own script, loaded when it is first visited. */
const LOADERS: Record<Path, () => Promise<ComponentType>> = {
  use: async () => (await import("../pages/use/UsePage")).UsePage,
  box: async () => (await import("../pages/box/BoxPage")).BoxPage,
  trip: async () => (await import("../pages/trip/TripPage")).TripPage,
  improve: async () => (await import("../pages/improve/ImprovePage")).ImprovePage,
  log: async () => (await import("../pages/log/LogPage")).LogPage,
  build: async () => (await import("../pages/build/BuildPage")).BuildPage,
  today: async () => (await import("../pages/today/TodayPage")).TodayPage,
};

/** Pages that are there already: drawn at once, for React holds a suspended one back a while. */
const loaded = new Map<Path, ComponentType>();

async function load(path: Path): Promise<{ default: ComponentType }> {
  const Page = loaded.get(path) ?? (await arriving(LOADERS[path]));
  loaded.set(path, Page);
  return { default: Page };
}

const LATE = Object.fromEntries(
  (Object.keys(LOADERS) as Path[]).map((path) => [path, part(() => load(path))]),
);

/** One page: at once where its script is there, or as soon as it is. */
export function PageAt({ path }: { path: Path }) {
  const Page = loaded.get(path) ?? LATE[path];
  return Page && <Page />;
}

/** Load the page that the address names. */
export async function loadPageAt(pathname: string): Promise<void> {
  const found = (Object.keys(LOADERS) as Path[]).find((path) => pathname.endsWith(`/${path}`));
  await load(found ?? "trip");
}

/** Load the other pages when there is time, so that they open at once later on. */
export function loadOtherPages(): void {
  const whenIdle = window.requestIdleCallback ?? ((work: () => void) => setTimeout(work, 1500));
  whenIdle(() => {
    for (const path of Object.keys(LOADERS) as Path[]) void load(path);
  });
}

const OUTSIDE = {
  start: part(async () => ({ default: (await import("../pages/start/StartPage")).StartPage })),
  help: part(async () => ({ default: (await import("../pages/help/HelpPage")).HelpPage })),
  status: part(async () => ({ default: (await import("../pages/status/StatusPage")).StatusPage })),
  pair: part(async () => ({ default: (await import("../pages/pair/PairPage")).PairPage })),
  practise: part(async () => ({
    default: (await import("../pages/practise/PractisePage")).PractisePage,
  })),
};

/** A page that belongs to no plan. */
export function Outside({ page }: { page: keyof typeof OUTSIDE }) {
  const Page = OUTSIDE[page];
  return (
    <Suspense fallback={<p className="p-8 text-ash">Putting the kettle on…</p>}>
      <Page />
    </Suspense>
  );
}
