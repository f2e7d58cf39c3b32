import { useEffect, useId, useState } from "react";
import { answer, client, type MonitorState, refusalIn } from "../../api/client";
import type { Live } from "../../plan/useLive";
import { dayName } from "../../quantities/clock";
import { Button } from "../../ui/Button";
import { SampleChart } from "./charts/SampleChart";

interface Props {
  planId: number;
  live: Live;
  zone: string;
}

/** The monitor's line: what it shows now, how it stands with it, and what it showed before. */
export function LivePanel({ planId, live, zone }: Props) {
  const { state } = live;
  return (
    <section className="plate px-4 py-3" aria-label="Live monitor">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h2 className="text-lg">Monitor</h2>
        <p
          className={`text-sm ${state?.state === "away" ? "font-semibold text-danger" : "text-ash"}`}
          data-testid="monitor-says"
          role="status"
        >
          {state ? state.text : "Asking…"}
          {!live.open && state && " Odd Kettle itself does not answer; it is called again."}
        </p>
      </div>
      {state?.newest && <Faces newest={state.newest} zone={zone} />}
      {state?.odd && <p className="text-sm text-danger">Not stored: {state.odd}.</p>}
      {state?.newest && (
        <SampleChart
          planId={planId}
          stored={state.stored}
          newest={Date.parse(state.newest.at_utc)}
          zone={zone}
        />
      )}
      {state && <AddressForm planId={planId} state={state} />}
    </section>
  );
}

function Faces({ newest, zone }: { newest: NonNullable<MonitorState["newest"]>; zone: string }) {
  const { volts, amps, percent, ah_in, ah_out } = newest;
  const local = new Date(newest.at_utc).toLocaleString("sv-SE", { timeZone: zone });
  const faces: [string, string | null, string][] = [
    ["level", percent == null ? null : percent.toFixed(1), "%"],
    ["at the battery", volts == null ? null : volts.toFixed(2), "V"],
    [
      amps != null && amps < 0 ? "going out" : "coming in",
      amps == null ? null : Math.abs(amps).toFixed(1),
      "A",
    ],
    ["counted in", ah_in == null ? null : ah_in.toFixed(1), "Ah"],
    ["counted out", ah_out == null ? null : ah_out.toFixed(1), "Ah"],
  ];
  return (
    <>
      <dl className="mt-2 flex flex-wrap gap-x-6 gap-y-2" data-testid="live-faces">
        {faces.map(
          ([text, value, unit]) =>
            value && (
              <div key={text} className="min-w-20">
                <dt className="text-sm text-ash">{text}</dt>
                <dd className="font-head text-3xl leading-none font-semibold tabular-nums">
                  {value} <span className="text-base font-normal text-ash">{unit}</span>
                </dd>
              </div>
            ),
        )}
      </dl>
      <p className="mt-1 text-sm text-ash" data-testid="live-at">
        {dayName(local.slice(0, 10))} {local.slice(11, 19)} by the monitor’s clock
      </p>
    </>
  );
}

function AddressForm({ planId, state }: { planId: number; state: MonitorState }) {
  const id = useId();
  const [address, setAddress] = useState(state.address ?? "");
  const [text, setText] = useState<string | null>(null);
  useEffect(() => setAddress(state.address ?? ""), [state.address]);

  async function set(to: string | null) {
    setText(null);
    try {
      await answer(
        client.PUT("/api/plans/{plan_id}/monitor", {
          params: { path: { plan_id: planId } },
          body: { address: to },
        }),
      );
    } catch (error) {
      setText(refusalIn(error).message);
    }
  }

  return (
    <form
      className="mt-3 flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void set(address);
      }}
    >
      <div>
        <label htmlFor={id} className="mb-0.5 block text-sm text-ash">
          Its address on your network
        </label>
        <input
          id={id}
          className="field w-56"
          placeholder="127.0.0.1:8770"
          value={address}
          onChange={(event) => setAddress(event.target.value)}
        />
      </div>
      <Button type="submit">Listen to it</Button>
      {state.address && <Button onClick={() => void set(null)}>Stop listening</Button>}
      {text && (
        <p role="alert" className="basis-full text-sm text-danger">
          {text}
        </p>
      )}
      <p className="basis-full text-sm text-ash">
        It speaks lines of JSON over TCP; a bridge of your own may send the same lines to{" "}
        <code>/api/plans/{planId}/samples</code>. The format is in <code>docs/formats.md</code>.
      </p>
    </form>
  );
}
