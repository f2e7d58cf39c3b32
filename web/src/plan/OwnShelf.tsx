import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "../api/client";
import { Button } from "../ui/Button";

export type OwnThing = Schemas["OwnThing"];
type Part = Pick<Schemas["NewThing"], "appliance" | "panel" | "battery">;

/** One's own things, of one kind or of all. */
export function useOwnThings(kind?: OwnThing["kind"]): OwnThing[] {
  const all = useQuery({
    queryKey: ["shelf"],
    queryFn: () => answer(client.GET("/api/shelf")),
  });
  return (all.data ?? []).filter((thing) => !kind || thing.kind === kind);
}

/** Keeps a part, with its figures as they are, for every plan to come. */
export function KeepKey({ name, part }: { name: string; part: Part }) {
  const queries = useQueryClient();
  const [told, setTold] = useState("");
  async function keep() {
    try {
      await answer(client.POST("/api/shelf", { body: { name, note: "", ...part } }));
      await queries.invalidateQueries({ queryKey: ["shelf"] });
      setTold(`${name} is in your gear.`);
    } catch (error) {
      setTold(error instanceof Error ? error.message : String(error));
    }
  }
  return (
    <span className="flex flex-wrap items-center gap-2">
      <Button onClick={() => void keep()}>Keep in my gear</Button>
      <span role="status" className="text-sm text-ash">
        {told}
      </span>
    </span>
  );
}

interface TakeProps {
  kind: OwnThing["kind"];
  onTake: (thing: OwnThing) => void;
}

/** One's own things of a kind, each a press away; nothing where there is none. */
export function TakeKeys({ kind, onTake }: TakeProps) {
  const things = useOwnThings(kind);
  if (things.length === 0) return null;
  return (
    <div role="group" aria-label="From my gear" className="flex flex-wrap items-center gap-2">
      <span className="text-sm text-ash">From my gear:</span>
      {things.map((thing) => (
        <Button key={thing.id} onClick={() => onTake(thing)}>
          {thing.name}
        </Button>
      ))}
    </div>
  );
}
