import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { answer, client, type Schemas } from "../api/client";

export type LabelReading = Schemas["LabelReading"];
export type LabelParts = Partial<Schemas["LabelParts"]>;
export type LabelOf = NonNullable<LabelReading["kind"]>;

const PAUSE_MS = 250;

/** A text once nobody has typed for a moment. */
export function usePaused(text: string): string {
  const [paused, setPaused] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => setPaused(text), PAUSE_MS);
    return () => clearTimeout(timer);
  }, [text]);
  return paused;
}

/** What a label says, put into a part; nothing is changed by asking. */
export function useLabel(text: string, kind: LabelOf, parts: LabelParts) {
  return useQuery({
    queryKey: ["label", kind, text, parts],
    enabled: text.trim() !== "",
    placeholderData: keepPreviousData,
    queryFn: () => answer(client.POST("/api/labels", { body: { text, kind, parts } })),
  });
}

/** Whether this computer reads photographs. */
export function usePhotographs(): boolean {
  const asked = useQuery({
    queryKey: ["photographs"],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => answer(client.GET("/api/labels/photo")),
  });
  return asked.data?.readable ?? false;
}
