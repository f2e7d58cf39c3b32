import { useQuery } from "@tanstack/react-query";
import { useId, useState } from "react";
import { answer, client, type Place } from "../../api/client";
import { Button } from "../Button";

interface Props {
  label: string;
  onChoose: (place: Place) => void;
}

/** Looks a town up in the list that ships with the app; no network is needed. */
export function PlaceSearch({ label, onChoose }: Props) {
  const id = useId();
  const [asked, setAsked] = useState("");
  const found = useQuery({
    queryKey: ["places", asked],
    enabled: asked.trim().length >= 2,
    queryFn: () => answer(client.GET("/api/places", { params: { query: { q: asked } } })),
    placeholderData: (before) => before,
  });
  const places = asked.trim().length >= 2 ? (found.data ?? []) : [];
  return (
    <div>
      <label htmlFor={id} className="mb-0.5 block text-sm text-ash">
        {label}
      </label>
      <input
        id={id}
        type="search"
        className="field"
        autoComplete="off"
        placeholder="a town near it"
        value={asked}
        onChange={(event) => setAsked(event.target.value)}
      />
      {places.length > 0 && (
        <ul
          className="mt-1 max-h-44 overflow-y-auto rounded-lg border border-line"
          aria-label="Places found"
        >
          {places.map((place) => (
            <li key={`${place.latitude},${place.longitude}`}>
              <Button
                look="bare"
                className="menu-item w-full text-left"
                onClick={() => {
                  setAsked("");
                  onChoose(place);
                }}
              >
                {place.name}, {place.country}
              </Button>
            </li>
          ))}
        </ul>
      )}
      {asked.trim().length >= 2 && found.data?.length === 0 && (
        <p className="mt-1 text-sm text-ash">
          No town of that name is in the list. Type its coordinates below; the name is yours.
        </p>
      )}
    </div>
  );
}
