import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answer, client, type Schemas } from "../../../api/client";
import { Button } from "../../../ui/Button";

/** Beginning from something like one's own: the samples as short stories with their verdict. */
export function Samples({ ready }: { ready: boolean }) {
  const [all, setAll] = useState(false);
  const stories = useQuery({
    queryKey: ["stories"],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => answer(client.GET("/api/sentence/stories")),
  });
  if (!stories.data) return null;
  const shown = all ? stories.data : stories.data.slice(0, 3);
  return (
    <section aria-labelledby="samples" className="mt-8">
      <h2 id="samples" className="text-xl">
        Start from an example
      </h2>
      <ul className="mt-2 grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
        {shown.map((story) => (
          <StoryCard key={story.key} story={story} ready={ready} />
        ))}
      </ul>
      {!all && (
        <Button look="link" className="mt-3" onClick={() => setAll(true)}>
          All {stories.data.length} of them
        </Button>
      )}
    </section>
  );
}

function StoryCard({ story, ready }: { story: Schemas["Story"]; ready: boolean }) {
  const navigate = useNavigate();
  const path = { key: story.key };
  const glance = useQuery({
    queryKey: ["story", story.key],
    enabled: ready,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => answer(client.GET("/api/sentence/stories/{key}", { params: { path } })),
  });
  async function take() {
    const made = await answer(client.POST("/api/sentence/stories/{key}", { params: { path } }));
    navigate(`/plan/${made.id}/trip`);
  }
  return (
    <li className="card flex flex-col gap-1">
      <h3 className="text-base">{story.title}</h3>
      <p className="text-ash">{story.text}</p>
      <p className="font-semibold">{glance.data?.headline ?? "…"}</p>
      {story.mistake && (
        <details>
          <summary className="cursor-pointer text-ash underline">
            The mistake in this example
          </summary>
          {story.mistake}
        </details>
      )}
      <Button className="mt-auto self-start" onClick={() => void take()}>
        Open a copy
      </Button>
    </li>
  );
}
