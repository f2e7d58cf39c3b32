import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { answer, client, type Schemas } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { Dialog } from "../../../ui/Dialog";
import { Choice } from "../../../ui/fields/Choice";

type Role = Schemas["DeviceCard"]["role"];
const RIGHTS: Record<Role, string> = {
  full: "May do everything",
  guest: "Guest: reads and logs",
};

/** Letting other devices of the camp's network in, and sending them away. */
export default function DevicesDialog(props: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
}) {
  const sharing = useQuery({
    queryKey: ["sharing"],
    queryFn: () => answer(client.GET("/api/sharing")),
    // A device that was just let in appears without being asked for.
    refetchInterval: 2000,
  });
  const found = sharing.data;
  return (
    <Dialog title="Open it on a phone" {...props}>
      {sharing.error && <p role="alert">{sharing.error.message}</p>}
      {found && !found.shared && <NotShared />}
      {found?.shared && (
        <div className="flex flex-col gap-4">
          <p className="card">
            What is sent crosses your network unencrypted. Do this only on a network that you trust.{" "}
            <a className="underline" href="/help#open-on-a-phone">
              More on it
            </a>
          </p>
          <NewDevice urls={found.urls} letIn={found.devices.length} />
          <LetIn devices={found.devices} />
        </div>
      )}
    </Dialog>
  );
}

function NotShared() {
  return (
    <div className="flex flex-col gap-2">
      <p>Odd Kettle answers this machine alone. To read your box from a phone, start it with:</p>
      <pre className="whitespace-pre-wrap rounded bg-shade p-2 text-sm">
        ODDKETTLE_PASS_PHRASE="four words of your own" oddkettle serve --share
      </pre>
      <p>Then come back here: a code lets each phone in. Do it only on a network that you trust.</p>
    </div>
  );
}

function NewDevice({ urls, letIn }: { urls: string[]; letIn: number }) {
  const [role, setRole] = useState<Role>("full");
  const [shown, setShown] = useState<Schemas["CodeShown"] | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    if (!shown) return;
    const over = setTimeout(() => setShown(null), shown.lives_s * 1000);
    return () => clearTimeout(over);
  }, [shown]);
  // A code is used up by the device that it lets in.
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked when the number changes
  useEffect(() => setShown(null), [letIn]);
  async function make() {
    try {
      setShown(await answer(client.POST("/api/sharing/codes", { body: { role } })));
      setProblem(null);
    } catch (error) {
      setProblem((error as Error).message);
    }
  }
  return (
    <section aria-label="A new device" className="flex flex-col gap-2">
      <Choice
        label="The new device"
        showLabel
        value={role}
        options={[
          { value: "full", text: RIGHTS.full },
          { value: "guest", text: RIGHTS.guest },
        ]}
        onChange={(next) => {
          setRole(next);
          setShown(null);
        }}
      />
      <Button className="self-start" onClick={() => void make()}>
        Show a code
      </Button>
      {problem && <p role="alert">{problem}</p>}
      {urls.length === 0 && (
        <p>This machine has no address on a network yet. Join one, and come back.</p>
      )}
      {shown && (
        <div className="card flex flex-wrap items-center gap-4">
          {shown.pictures[0] && (
            <img
              src={shown.pictures[0]}
              alt={`${shown.urls[0]}, for a camera`}
              className="size-44 rounded bg-white"
            />
          )}
          <div>
            <p data-testid="code" className="font-head text-4xl font-bold tracking-widest">
              {shown.code}
            </p>
            <p>For one device, for {Math.round(shown.lives_s / 60)} minutes.</p>
            <p>Point the phone’s camera at the picture, or open there:</p>
            <ul>
              {urls.map((url) => (
                <li key={url} className="break-all font-bold">
                  {url}/pair
                </li>
              ))}
            </ul>
          </div>
        </div>
      )}
    </section>
  );
}

function LetIn({ devices }: { devices: Schemas["DeviceCard"][] }) {
  const queries = useQueryClient();
  const [problem, setProblem] = useState<string | null>(null);
  async function sendAway(device_id: number) {
    try {
      const params = { path: { device_id } };
      await answer(client.DELETE("/api/sharing/devices/{device_id}", { params }));
    } catch (error) {
      setProblem((error as Error).message);
    }
    await queries.invalidateQueries({ queryKey: ["sharing"] });
  }
  return (
    <section aria-label="Devices that are let in">
      <h3 className="font-bold">Let in</h3>
      {devices.length === 0 && <p className="text-ash">No device yet.</p>}
      {problem && <p role="alert">{problem}</p>}
      <ul className="flex flex-col gap-1.5">
        {devices.map((one) => (
          <li key={one.id} className="flex flex-wrap items-center gap-x-3">
            <strong>{one.name}</strong>
            <span className="text-sm text-ash">
              {RIGHTS[one.role]}. Last seen {when(one.seen_at)}.{one.this && " This one."}
            </span>
            <Button
              className="ml-auto"
              aria-label={`Send ${one.name} away`}
              onClick={() => void sendAway(one.id)}
            >
              Send away
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function when(at: string): string {
  return new Date(at).toLocaleString("en-GB", {
    day: "numeric",
    month: "short",
    hour: "2-digit",
    minute: "2-digit",
  });
}
