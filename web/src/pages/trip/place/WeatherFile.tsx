import { useState } from "react";
import type { Plan, Problem, WeatherReport } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { FileKey } from "../../../ui/FileKey";

interface Props {
  weather: Plan["assumptions"]["weather"];
  onRead: (report: WeatherReport) => void;
  onClear: () => void;
}

/** A weather file of the place in place of a climate from the list; says what was read of it. */
export function WeatherFile({ weather, onRead, onClear }: Props) {
  const [report, setReport] = useState<WeatherReport | null>(null);
  const [file, setFile] = useState<File | null>(null);
  const [text, setText] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);

  async function read(chosen: File, shift: number) {
    setBusy(true);
    setText(null);
    setFile(chosen);
    try {
      const query = new URLSearchParams({ name: chosen.name, shift_min: String(shift) });
      const response = await fetch(`/api/weather?${query}`, {
        method: "POST",
        body: await chosen.arrayBuffer(),
      });
      if (!response.ok) {
        setReport(null);
        setText(((await response.json()) as Problem).detail);
        return;
      }
      const got = (await response.json()) as WeatherReport;
      setReport(got);
      onRead(got);
    } catch (error) {
      setText(`The file could not be sent (${String(error)}). Is Odd Kettle still running?`);
    } finally {
      setBusy(false);
    }
  }
  const shift = report?.offers_shift_min;

  return (
    <div>
      <div className="mb-1 text-sm text-ash">
        {weather ? `Weather file: ${weather.source}` : "or a weather file (EPW, TMY2, TMY3, PVGIS)"}
      </div>
      <div className="flex flex-wrap gap-2">
        <FileKey
          text={busy ? "Reading…" : weather ? "Another file" : "Read a file"}
          accept=".epw,.tm2,.csv,.json,.CSV,.EPW"
          onFile={(chosen) => void read(chosen, 0)}
        />
        {weather && <Button onClick={onClear}>Leave the file out</Button>}
        {file && shift != null && (
          <Button onClick={() => void read(file, shift)}>Move its times by {shift} min</Button>
        )}
      </div>
      {report && (
        <p className="mt-1 text-sm" data-testid="weather-says">
          {report.text.join(" ")}
        </p>
      )}
      {text && (
        <p role="alert" className="mt-1 text-sm text-danger">
          {text} The plan stays as it was.
        </p>
      )}
    </div>
  );
}
