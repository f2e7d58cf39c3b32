import { useState } from "react";
import { answer, client } from "../api/client";
import { Button } from "../ui/Button";
import { Choice } from "../ui/fields/Choice";
import { PlaceSearch } from "../ui/fields/PlaceSearch";
import { Stepper } from "../ui/fields/Stepper";
import type { SheetProps } from "./Sheet";
import { MONTHS, nextDate, type Shape, THIRDS } from "./sentence";

const SHAPES: readonly { value: Shape; text: string; title: string }[] = [
  { value: "trip", text: "nights away", title: "I take the box out and come back." },
  { value: "standby", text: "backup at home", title: "Always on mains, for when that fails." },
  { value: "alone", text: "unattended", title: "For months, with nobody near." },
  { value: "which_box", text: "which box do I need?", title: "I know only what I run." },
];

/** What kind of question it is. */
export function ShapeSheet({ sentence, ofPlan, onChange }: SheetProps) {
  return (
    <div role="group" aria-label="What is it for?" className="flex flex-col gap-1.5">
      {SHAPES.filter(({ value }) => !ofPlan || value !== "which_box").map(
        ({ value, text, title }) => (
          <Button
            look="bare"
            key={value}
            aria-pressed={value === sentence.shape}
            className="tick w-full flex-col items-start gap-0"
            onClick={() => onChange({ ...sentence, shape: value })}
          >
            <strong>{text}</strong>
            <span className="text-sm font-normal">{title}</span>
          </Button>
        ),
      )}
    </div>
  );
}

/** So many nights, or months. */
export function LengthSheet({ sentence, onChange }: SheetProps) {
  if (sentence.shape === "alone")
    return (
      <Stepper
        label="Months"
        value={sentence.months}
        least={1}
        most={13}
        text={`${sentence.months} ${sentence.months === 1 ? "month" : "months"}`}
        onChange={(months) => onChange({ ...sentence, months })}
      />
    );
  const { nights } = sentence;
  return (
    <div className="flex flex-col gap-3">
      <Choice
        label="Nights"
        value={String(nights)}
        options={[1, 2, 3, 4, 5, 7, 10, 14].map((n) => ({ value: String(n), text: String(n) }))}
        onChange={(next) => onChange({ ...sentence, nights: Number(next) })}
      />
      <Stepper
        label="Nights"
        value={nights}
        least={1}
        most={60}
        text={`${nights} ${nights === 1 ? "night" : "nights"}`}
        onChange={(next) => onChange({ ...sentence, nights: next })}
      />
    </div>
  );
}

/** A town to search, where one is, or coordinates. */
export function PlaceSheet({ sentence, onChange }: SheetProps) {
  const { place } = sentence;
  const [problem, setProblem] = useState<string | null>(null);
  const [text, setText] = useState(`${place.latitude}, ${place.longitude}`);

  async function at(latitude: number, longitude: number, name: string) {
    const query = { latitude, longitude };
    const spot = await answer(client.GET("/api/places/at", { params: { query } }));
    const found = { name, latitude, longitude, ...spot };
    onChange({ ...sentence, place: found });
    setText(`${latitude}, ${longitude}`);
    setProblem(null);
  }
  function here() {
    if (!navigator.geolocation) return setProblem("This browser does not tell where it is.");
    navigator.geolocation.getCurrentPosition(
      ({ coords }) =>
        void at(
          Math.round(coords.latitude * 100) / 100,
          Math.round(coords.longitude * 100) / 100,
          "where I am",
        ),
      () => setProblem("This browser may not tell where it is. Search a town or type coordinates."),
    );
  }
  function typed(next: string) {
    setText(next);
    const [latitude, longitude] = next.split(/[,;\s]+/).map(Number);
    const known = latitude !== undefined && longitude !== undefined;
    if (known && Math.abs(latitude) <= 90 && Math.abs(longitude) <= 180 && next.includes(","))
      void at(latitude, longitude, `${latitude}, ${longitude}`);
    else setProblem("Type degrees north and east, like 54.2, -2.3; south and west are minus.");
  }
  return (
    <div className="flex flex-col gap-3">
      <PlaceSearch
        label="A town near it"
        onChoose={({ name, latitude, longitude, timezone, altitude_m }) => {
          const site = { name, latitude, longitude, timezone, altitude_m };
          setText(`${latitude}, ${longitude}`);
          onChange({ ...sentence, place: site });
        }}
      />
      <Button className="self-start" onClick={here}>
        About here
      </Button>
      <label className="text-sm text-ash">
        Degrees north, degrees east
        <input className="field" value={text} onChange={(event) => typed(event.target.value)} />
      </label>
      {problem && (
        <p role="alert" className="text-sm text-danger">
          {problem}
        </p>
      )}
      <p className="text-sm text-ash">
        {place.name}: {place.latitude.toFixed(2)}° north, {place.longitude.toFixed(2)}° east. It
        stays on this machine.
      </p>
    </div>
  );
}

/** A month and its third, or a date; and how cold the nights are, where one knows better. */
export function WhenSheet({ sentence, onChange }: SheetProps) {
  const when = new Date(`${sentence.start}T12:00`);
  const third = when.getDate() <= 10 ? 5 : when.getDate() <= 20 ? 15 : 25;
  const set = (month: number, day: number) =>
    onChange({ ...sentence, start: nextDate(month, day, new Date()) });
  return (
    <div className="flex flex-col gap-3">
      <Choice
        label="Month"
        value={String(when.getMonth())}
        options={MONTHS.map((text, n) => ({
          value: String(n),
          text: text.slice(0, 3),
          title: text,
        }))}
        onChange={(next) => set(Number(next), third)}
      />
      <Choice
        label="Part of the month"
        value={String(third)}
        options={THIRDS.map(({ text, day }) => ({ value: String(day), text }))}
        onChange={(next) => set(when.getMonth(), Number(next))}
      />
      <label className="text-sm text-ash">
        or from a date
        <input
          type="date"
          className="field"
          value={sentence.start}
          onChange={(event) => {
            if (event.target.value) onChange({ ...sentence, start: event.target.value });
          }}
        />
      </label>
      <Choice
        label="How cold the nights are"
        showLabel
        value={String(sentence.coldest_c ?? "usual")}
        options={[
          { value: "usual", text: "as usual there" },
          ...[10, 0, -5, -10, -20].map((c) => ({ value: String(c), text: `${c} °C` })),
        ]}
        onChange={(next) =>
          onChange({ ...sentence, coldest_c: next === "usual" ? null : Number(next) })
        }
      />
    </div>
  );
}
