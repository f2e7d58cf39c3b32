import { useMutation } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { answer, client, type LogEntry, type NewEntry, Refusal } from "../../api/client";
import { usePlanState } from "../../plan/context";
import { OpenReading } from "../../plan/OpenReading";
import { Figure, STANDING } from "../../plan/sums";
import { type Live, useLive } from "../../plan/useLive";
import { useLog, useLogRefresh, useTrack } from "../../plan/useLog";
import { useHabits } from "../../quantities/useHabits";
import { Button } from "../../ui/Button";
import { PageHead } from "../../ui/PageHead";
import { useView } from "../../ui/useView";
import { Views } from "../../ui/Views";
import { BrokerForm } from "./BrokerForm";
import { CapacityTest } from "./CapacityTest";
import { ActualBoard } from "./charts/ActualBoard";
import { ForecastScore } from "./charts/ForecastScore";
import { TrackChart } from "./charts/TrackChart";
import { EntryForm } from "./entering/EntryForm";
import { EntryList, whenOf } from "./entering/EntryList";
import { draftOf } from "./entering/entryKinds";
import { LogFiles } from "./entering/LogFiles";
import { TableImport } from "./entering/TableImport";
import { Withdrawn } from "./entering/Withdrawn";
import { LearnedList } from "./LearnedList";
import { LivePanel } from "./LivePanel";

const VIEWS = [
  { value: "log", text: "Log" },
  { value: "learned", text: "What it says" },
  { value: "actual", text: "Plan and actual" },
  { value: "monitor", text: "Monitor and files" },
] as const;
/** While a monitor is on the line the track is asked anew this often. */
const FRESH_MS = 10_000;

/** What happened, where the battery stands because of it, and how the rest looks. */
export function LogPage() {
  const [view, setView] = useView(VIEWS);
  const { plan, run, draft } = usePlanState();
  const track = useTrack();
  const entries = useLog();
  const live = useLive();
  const refresh = useLogRefresh();
  useFreshTrack(live, refresh);

  return (
    <>
      <PageHead
        answer={track?.begun ? track.headline : "Nothing is logged yet."}
        facts={
          track?.begun ? (
            <>
              <span data-testid="ahead">
                {track.detail} <span className="font-semibold">{track.rest.headline}</span>
              </span>{" "}
              {track.why_text}{" "}
              {`${track.readings} reading${track.readings === 1 ? "" : "s"}${track.aside ? `, ${track.aside} not used` : ""}; the plan had ${Math.round(track.planned_percent)} %.`}{" "}
              <Figure of={STANDING}>how it is known</Figure>
            </>
          ) : (
            "Enter what you read, did or saw: the level follows, with its uncertainty, and the rest of the trip."
          )
        }
      />
      <div className="mb-3 print:hidden">
        <Views label="Parts of the log" value={view} views={VIEWS} onChange={setView} />
      </div>
      {track?.question && (
        <div className="mb-3">
          <OpenReading
            planId={plan.id}
            question={track.question}
            onAnswered={() => void refresh()}
            onAgain={() => setView("log")}
          />
        </div>
      )}
      {view === "log" && <Entering entries={entries} refresh={refresh} />}
      {view === "learned" && (
        <>
          <Suspicions texts={track?.suspicions ?? []} />
          <ForecastScore />
          <LearnedList learned={track?.learned ?? []} />
          <CapacityTest />
        </>
      )}
      {view === "actual" && <ActualBoard />}
      {view === "monitor" && (
        <div className="grid items-start gap-3 lg:grid-cols-2">
          <LivePanel planId={plan.id} live={live} zone={draft.trip.site.timezone} />
          <div className="grid gap-3">
            <TableImport planId={plan.id} onDone={() => void refresh()} />
            <LogFiles planId={plan.id} />
            <BrokerForm planId={plan.id} />
          </div>
        </div>
      )}
      <span className="sr-only" data-testid="days">
        {run.days.length} days
      </span>
    </>
  );
}

/** What must be wrong, where readings and model do not agree. */
function Suspicions({ texts }: { texts: readonly string[] }) {
  if (texts.length === 0) return null;
  return (
    <section className="plate mb-3 p-4" aria-label="What does not fit" data-testid="suspicions">
      <h2 className="text-lg">What does not fit</h2>
      <ul className="list-disc pl-5">
        {texts.map((text) => (
          <li key={text}>{text}</li>
        ))}
      </ul>
    </section>
  );
}

/** Ask for the track anew while samples come in, but not with each of them. */
function useFreshTrack(live: Live, refresh: () => Promise<unknown>) {
  const stored = live.state?.stored ?? 0;
  const asked = useRef({ stored: -1, at: 0 });
  useEffect(() => {
    const before = asked.current;
    if (before.stored < 0) {
      asked.current = { stored, at: Date.now() };
      return;
    }
    if (stored === before.stored || Date.now() - before.at < FRESH_MS) return;
    asked.current = { stored, at: Date.now() };
    void refresh();
  }, [stored, refresh]);
}

interface EnteringProps {
  entries: readonly LogEntry[];
  refresh: () => Promise<unknown>;
}

function Entering({ entries, refresh }: EnteringProps) {
  const habits = useHabits();
  const { plan, run, draft } = usePlanState();
  const track = useTrack();
  const [gone, setGone] = useState<LogEntry | null>(null);
  const [correcting, setCorrecting] = useState<LogEntry | null>(null);
  const [corrected, setCorrected] = useState<{ from: LogEntry; to: LogEntry } | null>(null);
  const [sent, setSent] = useState(0);
  const path = { plan_id: plan.id };
  const send = useMutation({
    mutationFn: (body: NewEntry) =>
      correcting
        ? answer(
            client.PUT("/api/plans/{plan_id}/log/{entry_id}", {
              params: { path: { ...path, entry_id: correcting.id } },
              body,
            }),
          )
        : answer(client.POST("/api/plans/{plan_id}/log", { params: { path }, body })),
    onSuccess: (entry) => {
      setCorrected(correcting && { from: correcting, to: entry });
      setCorrecting(null);
      setSent((count) => count + 1);
      return refresh();
    },
  });
  const remove = useMutation({
    mutationFn: (entry: LogEntry) =>
      answer(
        client.DELETE("/api/plans/{plan_id}/log/{entry_id}", {
          params: { path: { ...path, entry_id: entry.id } },
        }),
      ),
    onSuccess: (_, entry) => {
      setGone(entry);
      return refresh();
    },
  });
  const restore = useMutation({
    mutationFn: (entry: LogEntry) =>
      answer(
        client.POST("/api/plans/{plan_id}/log/{entry_id}/restore", {
          params: { path: { ...path, entry_id: entry.id } },
        }),
      ),
    onSuccess: () => {
      setGone(null);
      return refresh();
    },
  });
  /** A correction is taken back by deleting it and putting the old entry in its place. */
  async function takeBack({ from, to }: NonNullable<typeof corrected>) {
    await remove.mutateAsync(to);
    await restore.mutateAsync(from);
    setCorrected(null);
  }
  const days = run.days.map((day) => day.date);
  const now = track?.now ?? `${days[0] ?? draft.trip.start}T08:00`;

  return (
    <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-3 lg:grid-cols-[22rem_minmax(0,1fr)]">
      {track && (
        <EntryForm
          key={`${sent} ${correcting?.id ?? "new"}`}
          plan={draft}
          days={days}
          now={now}
          begin={correcting && draftOf(correcting)}
          busy={send.isPending}
          refusal={send.error instanceof Refusal ? send.error.problem : null}
          onSend={(entry) => send.mutate(entry)}
          onCancel={() => setCorrecting(null)}
        />
      )}
      <section className="plate min-w-0 px-3 py-3" aria-label="Entries">
        <TrackChart run={run} track={track} floor={draft.trip.floor_percent} entries={entries} />
        {gone && (
          <p className="mt-2 flex items-center gap-3" role="status">
            Deleted the entry of {whenOf(gone, habits)}.
            <Button onClick={() => restore.mutate(gone)}>Put it back</Button>
          </p>
        )}
        {corrected && (
          <p className="mt-2 flex items-center gap-3" role="status">
            Corrected the entry of {whenOf(corrected.to, habits)}: {corrected.from.text} before.
            <Button onClick={() => void takeBack(corrected)}>Take it back</Button>
          </p>
        )}
        <Withdrawn planId={plan.id} onPutBack={(entry) => restore.mutate(entry)} />
        <EntryList
          entries={entries}
          marks={track?.marks ?? []}
          onCorrect={(entry) => {
            send.reset();
            setCorrecting(entry);
            window.scrollTo({ top: 0, behavior: "smooth" });
          }}
          onRemove={(entry) => remove.mutate(entry)}
        />
      </section>
    </div>
  );
}
