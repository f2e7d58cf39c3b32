import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, refusalIn } from "../../../api/client";
import { usePlanPart } from "../../../plan/context";

/** What to key into a part: each with what is usual, why, and what goes wrong without it. */
export function WhatToSet({ part }: { part: string }) {
  const [open, setOpen] = useState(false);
  return (
    <details
      className="border-t border-line pt-2"
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="cursor-pointer rounded py-1 font-head font-semibold">What to set</summary>
      {open && <Settings part={part} />}
    </details>
  );
}

function Settings({ part }: { part: string }) {
  const draft = usePlanPart((state) => state.draft);
  const sheet = useQuery({
    queryKey: ["settings", draft],
    queryFn: () => answer(client.POST("/api/build/settings", { body: draft })),
    placeholderData: keepPreviousData,
    retry: false,
  });
  if (sheet.error) {
    return (
      <p role="alert" className="text-danger">
        {refusalIn(sheet.error).problem.detail}
      </p>
    );
  }
  if (!sheet.data) return <p className="text-ash">Working it out…</p>;
  const devices = sheet.data.filter((one) => one.part === part || one.also.includes(part));
  if (devices.length === 0) return <p className="text-ash">Nothing is set on this part.</p>;
  return devices.map((device) => (
    <section key={device.name} aria-label={`Settings: ${device.name}`} className="mt-2">
      <h3 className="font-semibold">{device.name}</h3>
      <dl>
        {device.rows.map((row) => (
          <div key={row.key} className="border-t border-line py-1.5">
            <dt className="flex items-baseline justify-between gap-3">
              <span>{row.name}</span>
              <span className="text-right font-semibold">{row.value}</span>
            </dt>
            <dd className="text-sm text-ash">
              {row.usual !== row.value && <>Usual: {row.usual}. </>}
              {row.note && <strong className="text-ink">{row.note} </strong>}
              {row.why} {row.otherwise}
            </dd>
          </div>
        ))}
      </dl>
      {device.preset && <p className="mt-1 text-sm">{device.preset}</p>}
      <p className="mt-1 text-sm text-ash">The device’s and the battery’s own book go first.</p>
    </section>
  ));
}
