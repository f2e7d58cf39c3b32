import { useMemo, useSyncExternalStore } from "react";
import type { Schemas } from "../api/client";
import { outbox, type TripMark, type Waiting } from "./outbox";

type Thing = Schemas["DayThing"];
type TodayReport = Schemas["TodayReport"];

/** What waits to be sent of a trip or for another data file, and what contradicted another device. */
export function useOutbox({ planId, dataFile, tripKey }: TripMark): {
  waiting: readonly Waiting[];
  elsewhere: readonly Waiting[];
  against: readonly string[];
} {
  const { waiting, against } = useSyncExternalStore(outbox.subscribe, outbox.snapshot);
  return useMemo(
    () => ({
      waiting: waiting.filter(
        (one) => !one.elsewhere && (one.tripKey ? one.tripKey === tripKey : one.planId === planId),
      ),
      elsewhere: waiting.filter(
        (one) => one.elsewhere || (one.dataFile !== "" && one.dataFile !== dataFile),
      ),
      against,
    }),
    [waiting, against, planId, dataFile, tripKey],
  );
}

/** The day with what was ticked here and is not on the server yet. */
export function withWaiting(day: TodayReport, waiting: readonly Waiting[]): TodayReport {
  if (waiting.length === 0) return day;
  const ticked = (thing: Thing): Thing => {
    const said = waiting.findLast(({ entry, refused }) => {
      const at = entry.at.slice(0, 16);
      // A use is told of by its own hours: there may be two a day, and one may pass midnight.
      const there =
        thing.kind === "use"
          ? at >= thing.at.slice(0, 16) && at < thing.until.slice(0, 16)
          : at.slice(0, 10) === thing.at.slice(0, 10);
      if (refused !== undefined || !there) return false;
      const own = (entry.appliance ?? null) === (thing.appliance ?? null);
      return own && (entry.kind === thing.did || entry.kind === thing.did_not);
    });
    if (!said) return thing;
    const inPart = thing.kind === "use" && said.entry.at.slice(0, 16) > thing.at.slice(0, 16);
    const did = said.entry.kind === thing.did;
    const state = inPart ? "part" : did ? "did" : "did_not";
    return { ...thing, state, by: "not sent yet" };
  };
  const things = day.things.map(ticked);
  const yesterday = day.yesterday.map(ticked).filter((thing) => thing.state === "to_tick");
  return { ...day, things, yesterday };
}
