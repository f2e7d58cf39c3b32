import { useEffect, useState } from "react";
import { Link } from "react-router";
import { DayView } from "../pages/today/DayView";
import { AwayBanner } from "./AwayBanner";
import { meetDataFile } from "./dataFile";
import { ageWords, dayOn, type KeptDay, keptDays, localNow } from "./keptDays";
import { outbox } from "./outbox";

const AGAIN_MS = 4000;

interface Props {
  /** The trip that was asked for; null on the first page. */
  planId: number | null;
  /** The server answers again. */
  onBack: () => void;
}

/** Without the server: the last known day of a trip, its pad, and what waits to be sent. */
export function AwayPage({ planId, onBack }: Props) {
  const [kept, setKept] = useState<KeptDay | null | undefined>(undefined);
  const [others, setOthers] = useState<readonly KeptDay[]>([]);
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    void keptDays().then((known) => {
      setOthers(known);
      setKept(known.find((one) => one.planId === planId) ?? null);
    });
  }, [planId]);
  useEffect(() => {
    const timer = setInterval(() => {
      setNow(Date.now());
      void isBack().then(async (back) => {
        if (!back) return;
        await outbox.send();
        onBack();
      });
    }, AGAIN_MS);
    return () => clearInterval(timer);
  }, [onBack]);

  if (kept === undefined) return <p className="p-8 text-ash">Putting the kettle on…</p>;
  return (
    <>
      <header className="border-b-4 border-sun bg-rim text-on-rim print:hidden">
        <div className="mx-auto flex max-w-[1320px] items-center gap-2 px-3 py-2 sm:px-4">
          <img src="/kettle.svg" alt="" className="size-8" />
          <span className="font-head text-xl font-bold">Odd Kettle</span>
          {kept && <span className="ml-auto min-w-0 truncate">{kept.title}</span>}
        </div>
      </header>
      <main className="mx-auto max-w-[1320px] px-3 pb-10 sm:px-4">
        {kept ? (
          <Kept kept={kept} now={now} />
        ) : (
          <div className="plate mt-6 max-w-xl p-5">
            <h1 className="mb-2 text-xl">Odd Kettle is out of reach</h1>
            <p>
              It is asked again every few seconds. Is it still running, and is this device in its
              network?
            </p>
            {others.length > 0 && <p className="mt-3">This device knows the day of:</p>}
            <ul className="list-disc pl-6">
              {others.map((one) => (
                <li key={one.planId}>
                  <Link className="underline" to={`/plan/${one.planId}/today`}>
                    {one.title}
                  </Link>
                  , {one.day.day}, known {ageWords(one.keptAt, now)}
                </li>
              ))}
            </ul>
          </div>
        )}
      </main>
    </>
  );
}

function Kept({ kept, now }: { kept: KeptDay; now: number }) {
  const day = dayOn(kept.day, localNow(kept.day, now).slice(0, 10), kept.floor);
  return (
    <DayView
      trip={kept}
      day={day}
      floor={kept.floor}
      levelIs="last known"
      banner={<AwayBanner keptAt={kept.keptAt} />}
    />
  );
}

/** Whether the server answers; who may not come in is answered too. */
async function isBack(): Promise<boolean> {
  try {
    const got = meetDataFile(await fetch("/api/sharing/me", { cache: "no-store" }));
    return got.headers.get("content-type")?.includes("json") ?? false;
  } catch {
    return false;
  }
}
