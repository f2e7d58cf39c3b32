import { useState } from "react";
import { answer, client } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { Stepper } from "../../../ui/fields/Stepper";

/** Another trip with a box: a name, a day, nights. */
export function NewTrip({ boxId, onMade }: { boxId: number; onMade: (id: number) => void }) {
  const [name, setName] = useState("Another trip");
  const [start, setStart] = useState(() => new Date().toISOString().slice(0, 10));
  const [nights, setNights] = useState(3);
  const [problem, setProblem] = useState<string | null>(null);
  async function make() {
    try {
      const path = { box_id: boxId };
      const body = { name, start, nights };
      const made = await answer(
        client.POST("/api/boxes/{box_id}/trips", { params: { path }, body }),
      );
      onMade(made.id);
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error));
    }
  }
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void make();
      }}
    >
      <label className="text-sm text-ash">
        Name of the trip
        <input
          className="field"
          value={name}
          maxLength={80}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <label className="text-sm text-ash">
        First day
        <input
          type="date"
          className="field"
          value={start}
          onChange={(event) => setStart(event.target.value)}
        />
      </label>
      <Stepper
        label="Nights"
        value={nights}
        least={1}
        most={60}
        text={`${nights} ${nights === 1 ? "night" : "nights"}`}
        onChange={setNights}
      />
      {problem && (
        <p role="alert" className="text-danger">
          {problem}
        </p>
      )}
      <Button look="main" type="submit" className="self-start" disabled={!name.trim() || !start}>
        Make the trip
      </Button>
    </form>
  );
}
