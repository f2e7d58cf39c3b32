import { scaleLinear } from "d3-scale";
import { useState } from "react";
import { answer, type Battery, type CurveRead, client, refusalIn } from "../../../../api/client";
import { FootFigures, LevelLines } from "../../../../drawing/Axes";
import { linePath } from "../../../../drawing/paths";
import { useWidth } from "../../../../drawing/useWidth";
import { Button } from "../../../../ui/Button";
import { FileKey } from "../../../../ui/FileKey";
import { Choice } from "../../../../ui/fields/Choice";
import { NumberField } from "../../../../ui/fields/NumberField";

type Points = NonNullable<NonNullable<Battery["datasheet"]>["rested_v"]>;
type Kind = "rested" | "discharge";

const HEIGHT = 170;
const LEFT = 52;
const RIGHT = 24;

interface Props {
  battery: Battery;
  points: Points | null;
  onChange: (points: Points | null) => void;
}

/** The battery's own voltage curve: a few points, a table or a discharge, typed or from a file. */
export function CurveFields({ battery, points, onChange }: Props) {
  const [kind, setKind] = useState<Kind>("rested");
  const [typed, setTyped] = useState("");
  const [amps, setAmps] = useState<number | null>(null);
  const [read, setRead] = useState<CurveRead | null>(null);
  const [refused, setRefused] = useState<string | null>(null);

  async function take(text: string) {
    setRefused(null);
    try {
      const body = { battery, text, kind, amps: kind === "discharge" ? amps : null };
      const got = await answer(client.POST("/api/battery/curve", { body }));
      setRead(got);
      onChange(got.points);
    } catch (error) {
      setRefused(refusalIn(error).problem.detail);
    }
  }

  return (
    <div className="grid gap-3">
      <Choice
        label="The voltages are"
        showLabel
        value={kind}
        options={[
          { value: "rested", text: "at rest, by level" },
          { value: "discharge", text: "in a steady discharge" },
        ]}
        onChange={setKind}
      />
      <label className="block text-sm text-ash">
        {kind === "rested"
          ? "A level in % and volts on each line. Three points are a start."
          : "Ah drawn since full and volts on each line."}
        <textarea
          className="field mt-1 h-28 font-mono text-ink"
          value={typed}
          placeholder={kind === "rested" ? "90 13.33\n50 13.12\n20 12.90" : "0 13.30\n25 13.18"}
          onChange={(event) => setTyped(event.target.value)}
        />
      </label>
      {kind === "discharge" && (
        <NumberField
          label="Drawn throughout"
          value={amps}
          limit="CurveAsked.amps"
          unit="A"
          onCommit={setAmps}
          onClear={() => setAmps(null)}
        />
      )}
      <div className="flex flex-wrap gap-2">
        <Button onClick={() => void take(typed)}>Read the curve</Button>
        <FileKey
          text="From a file"
          accept=".csv,.txt,.tsv"
          onFile={(file) =>
            void file.text().then((text) => {
              setTyped(text.slice(0, 200_000));
              return take(text);
            })
          }
        />
        {points && (
          <Button
            onClick={() => {
              setRead(null);
              onChange(null);
            }}
          >
            Leave the curve out
          </Button>
        )}
      </div>
      {refused && (
        <p role="alert" className="text-sm text-danger">
          {refused} The plan stays as it was.
        </p>
      )}
      {read && (
        <p className="text-sm" data-testid="curve-says">
          {read.text.join(" ")}
        </p>
      )}
      {points && <CurvePicture points={points} typical={read?.typical ?? null} />}
    </div>
  );
}

function CurvePicture({ points, typical }: { points: Points; typical: Points | null }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  // The steep foot below a tenth would flatten all the rest.
  const shown = [...points, ...(typical ?? [])].filter((point) => point.percent >= 8);
  const volts = shown.map((point) => point.volts);
  const x = scaleLinear([0, 100], [LEFT, Math.max(width - RIGHT, LEFT)]);
  const y = scaleLinear([Math.min(...volts), Math.max(...volts)], [HEIGHT - 30, 10]).nice(4);
  const line = (of: Points) =>
    linePath(of.filter((p) => p.percent >= 8).map((p) => ({ x: x(p.percent), y: y(p.volts) })));
  return (
    <div ref={ref}>
      <svg
        width={width}
        height={HEIGHT}
        role="img"
        aria-label={`Rested volts by level: its own curve of ${points.length} points${typical ? ", and the typical one, dashed" : ""}`}
      >
        <LevelLines
          ticks={y.ticks(4)}
          y={y}
          from={LEFT}
          to={width - RIGHT}
          text={(at) => `${at.toFixed(1)} V`}
        />
        <FootFigures ticks={[10, 25, 50, 75, 100]} x={x} y={HEIGHT - 8} text={(at) => `${at} %`} />
        {typical && (
          <path
            d={line(typical)}
            fill="none"
            stroke="var(--color-ash)"
            strokeWidth="1.6"
            strokeDasharray="5 4"
          />
        )}
        <path d={line(points)} fill="none" stroke="var(--color-level)" strokeWidth="2.4" />
      </svg>
    </div>
  );
}
