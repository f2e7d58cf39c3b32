import { useState } from "react";
import {
  answer,
  client,
  type Ingested,
  refusalIn,
  type TableMapping,
  type TablePreview,
} from "../../../api/client";
import { uploadText } from "../../../api/upload";
import { Button } from "../../../ui/Button";
import { FileKey } from "../../../ui/FileKey";
import { Choice } from "../../../ui/fields/Choice";
import { Select } from "../../../ui/fields/Select";
import { Switch } from "../../../ui/fields/Switch";
import { Wide } from "../../../ui/Wide";

interface Props {
  planId: number;
  onDone: () => void;
}

type ColumnKey = "time" | "clock" | "volts" | "amps" | "percent" | "ah_in" | "ah_out";
const COLUMNS: readonly [ColumnKey, string][] = [
  ["time", "time"],
  ["clock", "time of day"],
  ["volts", "volts"],
  ["amps", "amperes"],
  ["percent", "percent"],
  ["ah_in", "Ah in"],
  ["ah_out", "Ah out"],
];

const TABLE = "text/csv";

/** A monitor's table: guessed, shown with its first rows, put right, and only then stored. */
export function TableImport({ planId, onDone }: Props) {
  const [text, setText] = useState<string | null>(null);
  const [preview, setPreview] = useState<TablePreview | null>(null);
  const [done, setDone] = useState<Ingested | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const path = { plan_id: planId };

  async function look(body: string, mapping: TableMapping | null) {
    setProblem(null);
    setDone(null);
    try {
      const query = mapping ? { mapping: JSON.stringify(mapping) } : {};
      const request = { params: { path, query }, ...uploadText(body, TABLE) };
      setPreview(await answer(client.POST("/api/plans/{plan_id}/table/preview", request)));
    } catch (error) {
      setProblem(refusalIn(error).message);
      if (!mapping) setPreview(null);
    }
  }

  async function choose(file: File) {
    const body = await file.text();
    setText(body);
    await look(body, null);
  }

  async function store() {
    if (text === null || !preview) return;
    try {
      const query = { mapping: JSON.stringify(preview.mapping) };
      const request = { params: { path, query }, ...uploadText(text, TABLE) };
      setDone(await answer(client.POST("/api/plans/{plan_id}/table", request)));
      setPreview(null);
      onDone();
    } catch (error) {
      setProblem(refusalIn(error).message);
    }
  }

  return (
    <section className="plate px-4 py-3" aria-label="Import a monitor's table">
      <h2 className="text-lg">A table from a monitor</h2>
      <p className="mb-2 text-sm text-ash">
        A CSV file as a monitor’s app writes it. Nothing is stored before you have seen its first
        rows.
      </p>
      <FileKey
        text="Choose a CSV file"
        accept=".csv,.txt,.tsv"
        onFile={(file) => void choose(file)}
      />
      {problem && (
        <p role="alert" className="mt-2 text-danger">
          {problem}
        </p>
      )}
      {done && (
        <p role="status" className="mt-2" data-testid="import-done">
          Stored {done.stored.toLocaleString("en-GB")} samples
          {done.duplicates > 0 && `, ${done.duplicates} were there already`}
          {done.refused > 0 && `, ${done.refused} were not taken`}.
          {done.refusals.map((refusal) => (
            <span key={`${refusal.line}${refusal.text}`} className="block text-sm text-ash">
              {refusal.line > 0 && `line ${refusal.line}: `}
              {refusal.text}
            </span>
          ))}
        </p>
      )}
      {preview && text !== null && (
        <Mapping
          preview={preview}
          onChange={(mapping) => void look(text, mapping)}
          onStore={() => void store()}
          onLeave={() => setPreview(null)}
        />
      )}
    </section>
  );
}

function Mapping(props: {
  preview: TablePreview;
  onChange: (mapping: TableMapping) => void;
  onStore: () => void;
  onLeave: () => void;
}) {
  const { preview, onChange } = props;
  const { mapping, columns } = preview;
  const set = (part: Partial<TableMapping>) => onChange({ ...mapping, ...part });
  const options = columns.map((name, i) => ({ value: String(i), text: name || `column ${i + 1}` }));
  return (
    <div className="mt-3">
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-4">
        {COLUMNS.map(([key, text]) => (
          <Select
            key={key}
            label={text}
            value={String(mapping[key] ?? "")}
            options={key === "time" ? options : [{ value: "", text: "none" }, ...options]}
            onChange={(next) => set({ [key]: next === "" ? null : Number(next) })}
          />
        ))}
      </div>
      <div className="mt-3 flex flex-wrap gap-x-6 gap-y-2">
        <Switch
          label="A positive current discharges"
          checked={mapping.discharge_positive === true}
          onChange={(discharge_positive) => set({ discharge_positive })}
        />
        <Switch
          label="Decimal comma"
          checked={mapping.decimal_comma === true}
          onChange={(decimal_comma) => set({ decimal_comma })}
        />
        <Switch
          label="Day before month"
          checked={mapping.day_first === true}
          onChange={(day_first) => set({ day_first })}
        />
        <Switch
          label="mV"
          checked={mapping.millivolts === true}
          onChange={(millivolts) => set({ millivolts })}
        />
        <Switch
          label="mA"
          checked={mapping.milliamps === true}
          onChange={(milliamps) => set({ milliamps })}
        />
        <Choice
          label="Clock of the times"
          value={mapping.zone ?? "trip"}
          options={[
            { value: "trip", text: "the trip’s clock" },
            { value: "utc", text: "UTC" },
          ]}
          onChange={(zone) => set({ zone })}
        />
      </div>
      <FirstRows preview={preview} />
      <p className={preview.on_trip === 0 ? "font-semibold text-danger" : ""}>
        {preview.readable} rows can be read, {preview.on_trip} of them lie on the trip
        {preview.unreadable > 0 && `, ${preview.unreadable} cannot be read`}.
      </p>
      {preview.troubles.map((trouble) => (
        <p key={trouble.line} className="text-sm text-ash">
          line {trouble.line}: {trouble.text}
        </p>
      ))}
      <div className="mt-2 flex gap-2">
        <Button look="main" disabled={preview.on_trip === 0} onClick={props.onStore}>
          Store {preview.on_trip} samples
        </Button>
        <Button onClick={props.onLeave}>Cancel</Button>
      </div>
    </div>
  );
}

function FirstRows({ preview }: { preview: TablePreview }) {
  const number = (value: number | null | undefined) => (value == null ? "–" : String(value));
  return (
    <Wide label="First rows" className="my-3">
      <table className="w-full text-sm tabular-nums" data-testid="first-rows">
        <thead className="text-left text-ash">
          <tr>
            {["time (UTC)", "V", "A into the battery", "%", "Ah in", "Ah out"].map((name) => (
              <th key={name} className="pr-3 font-normal">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {preview.first.map((row) => (
            <tr key={row.at} className="border-t border-line">
              <td className="py-1 pr-3">{row.at.replace("T", " ").slice(0, 19)}</td>
              <td>{number(row.volts)}</td>
              <td>{number(row.amps)}</td>
              <td>{number(row.percent)}</td>
              <td>{number(row.ah_in)}</td>
              <td>{number(row.ah_out)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Wide>
  );
}
