import { useAlarms, useTelling } from "../../plan/useAlarms";
import { Button } from "../../ui/Button";

/** What must be known now, on every page: each with what to do, until it was read or is over. */
export default function AlarmBar({ begun }: { begun: boolean }) {
  const { alarms, see } = useAlarms(begun);
  const telling = useTelling();
  const open = alarms.filter((alarm) => !alarm.seen);
  if (open.length === 0) return null;
  return (
    <section
      aria-label="Alarms"
      className="plate my-2 border-danger px-4 py-2 print:hidden"
      data-testid="alarms"
    >
      <ul role="alert" className="divide-y divide-line">
        {open.map((alarm) => (
          <li key={alarm.key} className="flex flex-wrap items-center gap-x-4 gap-y-1 py-1.5">
            <p className="min-w-60 flex-1">
              <strong className={alarm.urgent ? "text-danger" : ""}>
                {alarm.urgent ? "▲ " : ""}
                {alarm.text}
              </strong>{" "}
              {alarm.remedy}
            </p>
            <Button className="min-h-11" onClick={() => void see(alarm.key)}>
              I have seen it
            </Button>
          </li>
        ))}
      </ul>
      {telling.can && (
        <p className="pt-1 text-sm text-ash">
          <Button look="link" onClick={() => void telling.ask()}>
            Let this device tell me
          </Button>{" "}
          while the page is open; by night only what is urgent, and nothing twice.
        </p>
      )}
    </section>
  );
}
