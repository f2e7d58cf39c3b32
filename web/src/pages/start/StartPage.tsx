import { useQuery } from "@tanstack/react-query";
import { Suspense, useEffect, useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { answer, client, type Plan, type Schemas } from "../../api/client";
import { isAway } from "../../away/isAway";
import { withRemedy } from "../../plan/judgements";
import { SentenceWords } from "../../sentence/SentenceWords";
import { keepSentence, keptSentence, type PartKey, type Sentence } from "../../sentence/sentence";
import { part } from "../../shell/part";
import { Answer } from "./Answer";
import { BoxesAndTrips } from "./kept/BoxesAndTrips";
import { OwnShelf } from "./kept/OwnShelf";
import { Samples } from "./kept/Samples";
import { StartHeader } from "./StartHeader";
import { type Reading, Typed } from "./Typed";
import { UnderWay } from "./UnderWay";
import { useAnswer } from "./useAnswer";

const AwayPage = part(async () => ({ default: (await import("../../away/AwayPage")).AwayPage }));

/** The home page: a sentence that answers itself, then boxes and trips. */
export function StartPage() {
  const [sentence, setSentence] = useState<Sentence | null>(keptSentence);
  const [open, setOpen] = useState<PartKey | null>(null);
  const [put, setPut] = useState<Schemas["SmallChange"] | null>(null);
  const [reading, setReading] = useState<Reading | null>(null);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const navigate = useNavigate();
  const choices = useQuery({
    queryKey: ["choices"],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => answer(client.GET("/api/sentence/choices")),
  });
  useFirstSentence(sentence, setSentence);
  const got = useAnswer(sentence);
  const changed = useChanged(got.plan, put);

  function change(next: Sentence, read: Reading | null = null) {
    setPut(null);
    setReading(read);
    setSentence(next);
    keepSentence(next);
  }
  async function make() {
    const body = changed.plan ?? got.plan;
    if (!body) return;
    setProblem(null);
    try {
      const made = await answer(client.POST("/api/plans", { body }));
      keepSentence(null);
      navigate(`/plan/${made.id}/trip`);
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error));
    }
  }
  const run = changed.run ?? got.run;
  const uses = useMemo(
    () => new Map(got.behind ? [] : run?.use.draws.map((draw) => [draw.key, draw.a_day])),
    [run, got.behind],
  );
  if (isAway(choices.error))
    return (
      <Suspense fallback={null}>
        <AwayPage planId={null} onBack={() => void choices.refetch()} />
      </Suspense>
    );
  return (
    <>
      <title>Odd Kettle: will your box last?</title>
      <StartHeader />
      <main
        className="mx-auto max-w-[1240px] px-4 pt-5 pb-14 sm:px-6"
        aria-busy={got.behind || busy}
      >
        <UnderWay ready={run !== undefined} />
        <h1 className="mb-1 text-base font-semibold text-ash">
          Fill in your trip. The answer updates as you change it.
        </h1>
        {sentence && choices.data && got.told && (
          <>
            <SentenceWords
              pieces={got.told.pieces}
              sentence={sentence}
              choices={choices.data}
              open={open}
              onOpen={setOpen}
              supposed={supposedParts(reading)}
              uses={uses}
              above={got.behind || busy ? "Working it out…" : run?.headline}
              onChange={(next) => change(next, withoutSupposed(reading, sentence, next))}
            />
            {reading && reading.supposed.length > 0 && (
              <p className="text-sm text-ash">
                Dotted in the sentence: nobody said so. Press it to say it.
              </p>
            )}
            <Typed
              sentence={sentence}
              reading={reading}
              onBusy={setBusy}
              onLabel={(next) => change(next, withoutSupposed(reading, sentence, next))}
              onRead={(read) => change(read.sentence, read)}
              onAnswer={(next, typed) =>
                change(
                  next,
                  reading && {
                    ...reading,
                    supposed: withoutSupposed(reading, sentence, next)?.supposed ?? [],
                    asked: reading.asked.filter((one) => one.typed !== typed),
                  },
                )
              }
            />
          </>
        )}
        {(got.problem || problem) && (
          <p role="alert" className="plate mt-4 p-4 text-danger">
            {got.problem?.message ?? problem}
          </p>
        )}
        {run && got.told ? (
          <Answer
            run={run}
            trip={got.told.plan.trip}
            notes={got.told.notes}
            caution={got.told.caution}
            change={got.change}
            changing={got.changing}
            behind={got.behind || busy}
            firstLook={got.firstLook}
            boxes={got.boxes}
            kept={put !== null}
            assumed={got.told.assumed}
            onAssume={(next) => {
              // What stands there while it is worked out belongs to the sentence before.
              if (!got.behind && !busy) change(next);
            }}
            age={sentence?.bank.age ?? null}
            onAge={(age) => sentence && change({ ...sentence, bank: { ...sentence.bank, age } })}
            onPutIn={setPut}
            onTakeOut={() => setPut(null)}
            onTakeBox={(offer) =>
              sentence && change({ ...sentence, shape: "trip", bank: offer.bank })
            }
            onMakeMine={() => void make()}
          />
        ) : (
          !got.problem && <p className="plate mt-4 h-72 p-6 text-ash">Putting the kettle on…</p>
        )}
        <BoxesAndTrips ready={run !== undefined} />
        <OwnShelf />
        <Samples ready={run !== undefined} />
      </main>
    </>
  );
}

/** Begin where the browser's clock is, if nothing was begun here before. */
function useFirstSentence(sentence: Sentence | null, setSentence: (first: Sentence) => void) {
  const { timeZone } = Intl.DateTimeFormat().resolvedOptions();
  const first = useQuery({
    queryKey: ["first sentence", timeZone],
    enabled: sentence === null,
    queryFn: () =>
      answer(client.GET("/api/sentence", { params: { query: { timezone: timeZone || "UTC" } } })),
  });
  useEffect(() => {
    if (sentence === null && first.data) setSentence(first.data);
  }, [sentence, first.data, setSentence]);
}

/** The plan with a change put in, and what a run of it says. */
function useChanged(plan: Plan | null, put: Schemas["SmallChange"] | null) {
  const changed = plan && put ? withRemedy(plan, { text: "", edits: put.edits }) : null;
  const run = useQuery({
    queryKey: ["run", changed],
    enabled: changed !== null,
    queryFn: () =>
      answer(
        client.POST("/api/preview", {
          params: { query: { advice: true, odds: "full" } },
          body: changed as Plan,
        }),
      ),
  });
  return { plan: changed, run: changed ? run.data : undefined };
}

/** Which part of the sentence shows what the reader calls so. */
const PART_OF: Record<Reading["supposed"][number], PartKey> = {
  bank: "bank",
  chemistry: "bank",
  chargers: "chargers",
  things: "things",
  nights: "length",
  place: "place",
  start: "when",
};

function supposedParts(reading: Reading | null): ReadonlySet<PartKey> {
  return new Set(reading?.supposed.map((one) => PART_OF[one]));
}

/** The reading without what was just said by pressing a part. */
function withoutSupposed(reading: Reading | null, before: Sentence, after: Sentence) {
  if (!reading) return null;
  const said = (one: Reading["supposed"][number]) => {
    const field = one === "chemistry" ? "bank" : one;
    return JSON.stringify(before[field]) !== JSON.stringify(after[field]);
  };
  return { ...reading, supposed: reading.supposed.filter((one) => !said(one)) };
}
