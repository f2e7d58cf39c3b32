import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { Button } from "../../ui/Button";
import { Switch } from "../../ui/fields/Switch";
import { More } from "../../ui/More";

type Settings = Schemas["BrokerSettings"];
type State = Schemas["BrokerState"];
type Paths = Schemas["SamplePaths"];

const AGAIN_MS = 3000;
const FIGURES: readonly (readonly [keyof Paths, string, string])[] = [
  ["volts", "Volts stand at", "$.battery.volts"],
  ["amps", "Amps, in is plus", "$.battery.amps"],
  ["percent", "Level in %", "$.soc"],
  ["ah_in", "Counted in, Ah", ""],
  ["ah_out", "Counted out, Ah", ""],
  ["at", "When; empty is on arrival", "$.time"],
];

/** An MQTT broker of one's own: samples from a topic, level and alarms to it. Off by default. */
export function BrokerForm({ planId }: { planId: number }) {
  const path = { plan_id: planId };
  const state = useQuery({
    queryKey: ["broker", planId],
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/broker", { params: { path } })),
    refetchInterval: (query) => (query.state.data?.settings ? AGAIN_MS : false),
  });
  if (!state.data) return null;
  const { settings } = state.data;
  return (
    <section className="plate px-4 py-2" aria-label="MQTT broker">
      <More text={settings ? `MQTT broker at ${settings.address}` : "An MQTT broker of your own"}>
        {/* Made anew when another broker is set, so that it shows that one's settings. */}
        <Fields key={settings?.address ?? "none"} planId={planId} state={state.data} />
      </More>
    </section>
  );
}

const text = (form: FormData, name: string) => String(form.get(name) ?? "").trim() || null;

function Fields({ planId, state }: { planId: number; state: State }) {
  const queries = useQueryClient();
  const { settings } = state;
  const [publish, setPublish] = useState(settings?.publish ?? false);
  const [trouble, setTrouble] = useState("");
  const path = { plan_id: planId };

  async function use(asked: Promise<State>) {
    setTrouble("");
    try {
      queries.setQueryData(["broker", planId], await asked);
    } catch (error) {
      setTrouble(error instanceof Error ? error.message : String(error));
    }
  }
  function send(form: FormData) {
    const paths = Object.fromEntries(FIGURES.map(([key]) => [key, text(form, key)])) as Paths;
    const body: Settings = {
      address: text(form, "address") ?? "",
      username: text(form, "username"),
      password: text(form, "password"),
      topic: text(form, "topic"),
      paths,
      publish,
      domain: text(form, "domain") ?? "homie",
    };
    return use(answer(client.PUT("/api/plans/{plan_id}/broker", { params: { path }, body })));
  }

  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void send(new FormData(event.currentTarget));
      }}
    >
      <p
        role="status"
        data-testid="broker-says"
        className={state.state === "away" ? "font-semibold text-danger" : "text-ash"}
      >
        {state.text}
        {settings?.topic && ` ${state.stored} samples stored.`}
        {settings?.publish && ` ${state.said} values said.`}
        {state.odd && ` Last refused: ${state.odd}.`}
      </p>
      <div className="grid gap-3 sm:grid-cols-3">
        <Field name="address" label="Its address" value={settings?.address} hint="127.0.0.1:1883" />
        <Field name="username" label="Name, if it asks for one" value={settings?.username} />
        <Field
          name="password"
          label={settings?.username ? "Password; empty leaves it as it is" : "Password"}
          type="password"
        />
      </div>
      <fieldset className="grid gap-3 sm:grid-cols-3">
        <legend className="font-head font-semibold">Samples from</legend>
        <div className="sm:col-span-3">
          <Field name="topic" label="The topic" value={settings?.topic} hint="van/battery" />
        </div>
        {FIGURES.map(([key, label, hint]) => (
          <Field key={key} name={key} label={label} value={settings?.paths?.[key]} hint={hint} />
        ))}
        <p className="text-sm text-ash sm:col-span-3">
          Messages are JSON; a path says where in them a figure stands (JSONPath, RFC 9535).
        </p>
      </fieldset>
      <fieldset className="grid gap-3">
        <legend className="font-head font-semibold">Out of here</legend>
        <Switch
          label="Level, verdict and alarms go out"
          hint="with a description by the open Homie convention, which home automations find"
          checked={publish}
          onChange={setPublish}
        />
        {publish && (
          <div className="max-w-56">
            <Field name="domain" label="Topics begin with" value={settings?.domain ?? "homie"} />
          </div>
        )}
      </fieldset>
      {trouble && (
        <p role="alert" className="text-danger">
          {trouble} Nothing was changed.
        </p>
      )}
      <div className="flex gap-2">
        <Button type="submit">Use this broker</Button>
        {settings && (
          <Button
            onClick={() =>
              void use(answer(client.DELETE("/api/plans/{plan_id}/broker", { params: { path } })))
            }
          >
            Use none
          </Button>
        )}
      </div>
      <p className="text-sm text-ash">
        The password is kept unlocked in this machine’s store, and what is said on the broker can be
        read by everybody who may listen there.
      </p>
    </form>
  );
}

interface FieldProps {
  name: string;
  label: string;
  value?: string | null | undefined;
  hint?: string;
  type?: string;
}

function Field({ name, label, value, hint, type = "text" }: FieldProps) {
  return (
    <label className="block text-sm text-ash">
      {label}
      <input
        className="field"
        name={name}
        type={type}
        autoComplete="off"
        defaultValue={value ?? ""}
        placeholder={hint}
      />
    </label>
  );
}
