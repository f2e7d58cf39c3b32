import { useQuery } from "@tanstack/react-query";
import { scaleLinear } from "d3-scale";
import { useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { LevelLines } from "../../drawing/Axes";
import { linePath } from "../../drawing/paths";
import { useWidth } from "../../drawing/useWidth";
import { Button } from "../../ui/Button";
import { StartHeader } from "../start/StartHeader";

type Asked = Schemas["Asked"];
type Answered = Schemas["Answered"];
const DONE = "oddkettle.practised";

function done(): Record<string, boolean> {
  try {
    return JSON.parse(localStorage.getItem(DONE) ?? "{}");
  } catch {
    return {};
  }
}

/** Situations to act in, each a small plan that the engine runs. */
export function PractisePage() {
  const [practised, setPractised] = useState(done);
  const [at, setAt] = useState(0);
  const all = useQuery({
    queryKey: ["practise"],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => answer(client.GET("/api/practise")),
  });
  const asked = all.data?.[at];
  function keep(key: string, right: boolean) {
    const next = { ...done(), [key]: right || Boolean(done()[key]) };
    localStorage.setItem(DONE, JSON.stringify(next));
    setPractised(next);
  }
  return (
    <>
      <StartHeader />
      <main className="mx-auto max-w-[1100px] px-4 pt-5 pb-14 sm:px-6">
        <h1 className="text-2xl">Practise</h1>
        <p className="text-ash">
          Each is a small plan. Choose what you would do, and see what comes of it.
        </p>
        <ol className="mt-3 flex flex-wrap gap-2" aria-label="Situations">
          {all.data?.map((one, i) => (
            <li key={one.key}>
              <Button
                aria-current={i === at}
                data-state={i === at ? "on" : undefined}
                onClick={() => setAt(i)}
              >
                {practised[one.key] ? "✓ " : ""}
                {i + 1}
                <span className="sr-only">
                  . {one.title}
                  {practised[one.key] ? ", done" : ""}
                </span>
              </Button>
            </li>
          ))}
        </ol>
        {asked && (
          <OneSituation
            key={asked.key}
            asked={asked}
            onAnswered={(right) => keep(asked.key, right)}
            onNext={at < (all.data?.length ?? 0) - 1 ? () => setAt(at + 1) : undefined}
          />
        )}
      </main>
    </>
  );
}

interface Props {
  asked: Asked;
  onAnswered: (right: boolean) => void;
  onNext?: () => void;
}

function OneSituation({ asked, onAnswered, onNext }: Props) {
  const [chosen, setChosen] = useState<number | null>(null);
  const [got, setGot] = useState<Answered | null>(null);
  async function choose(choice: number) {
    setChosen(choice);
    const path = { key: asked.key, choice };
    const found = await answer(client.POST("/api/practise/{key}/{choice}", { params: { path } }));
    setGot(found);
    onAnswered(found.right);
  }
  return (
    <article className="plate mt-4 p-4 sm:p-6">
      <h2 className="text-xl">{asked.title}</h2>
      <p className="mt-1 text-ash">{asked.sentence}</p>
      <p className="mt-2 max-w-prose text-lg">{asked.question}</p>
      <div role="group" aria-label="What do you do?" className="mt-3 flex flex-col gap-2">
        {asked.choices.map((text, i) => (
          <Button
            look="bare"
            key={text}
            className="tick justify-start text-left"
            aria-pressed={chosen === i}
            onClick={() => void choose(i)}
          >
            {text}
          </Button>
        ))}
      </div>
      {got && (
        <div role="status" className="mt-4 flex flex-col gap-2">
          <p className="text-lg">
            <strong>{got.right ? "Yes." : "Not quite."}</strong> {got.explains}
          </p>
          <Outcome title="As it was" outcome={got.before} />
          {got.after && <Outcome title="With your choice" outcome={got.after} />}
          {onNext && (
            <Button look="main" className="self-start" onClick={onNext}>
              The next one
            </Button>
          )}
        </div>
      )}
    </article>
  );
}

const HEIGHT = 130;
const INK: Record<string, string> = { dull: "var(--color-ink)", bright: "var(--color-sun)" };

/** The level in the worst and in the best trip of ten, and the sum. */
function Outcome({ title, outcome }: { title: string; outcome: Schemas["Outcome"] }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const y = scaleLinear([0, 100], [HEIGHT - 8, 8]);
  return (
    <section className="grid gap-3 border-t border-line pt-2 md:grid-cols-[15rem_1fr]">
      <div>
        <h3>{title}</h3>
        <p>It lasts in {Math.round(outcome.lasts_percent)} of 100 tries.</p>
        <ul className="text-sm text-ash">
          {outcome.sums.map((sum) => (
            <li key={sum}>{sum}</li>
          ))}
        </ul>
      </div>
      <div ref={ref} className="min-w-0">
        <svg
          width={width}
          height={HEIGHT}
          className="block"
          role="img"
          aria-label={`${title}: the level in dull and in bright weather`}
        >
          <LevelLines ticks={[0, 50, 100]} y={y} from={44} to={width - 60} text={(v) => `${v} %`} />
          <line
            x1={44}
            x2={width - 60}
            y1={y(outcome.floor_percent)}
            y2={y(outcome.floor_percent)}
            stroke="var(--color-danger)"
            strokeDasharray="5 4"
          />
          {outcome.lines.map(({ weather, level_percent }) => {
            const x = scaleLinear([0, Math.max(level_percent.length - 1, 1)], [44, width - 60]);
            const points = level_percent.map((level, i) => ({ x: x(i), y: y(level) }));
            return (
              <g key={weather}>
                <path
                  d={linePath(points)}
                  fill="none"
                  stroke={INK[weather]}
                  strokeWidth="2.4"
                  strokeDasharray={weather === "dull" ? undefined : "7 3"}
                />
                <text
                  x={width - 55}
                  y={Math.max(y(level_percent.at(-1) ?? 0) + (weather === "dull" ? 5 : -3), 12)}
                  fontSize="13"
                  fill="var(--color-ink)"
                >
                  {weather}
                </text>
              </g>
            );
          })}
        </svg>
      </div>
    </section>
  );
}
