import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../api/client";

/** What the app offers to choose from: asked once, it never changes while the app runs. */
export function useReference() {
  return useQuery({
    queryKey: ["reference"],
    queryFn: () => answer(client.GET("/api/reference")),
    staleTime: Number.POSITIVE_INFINITY,
  }).data;
}
