import { Button } from "../ui/Button";
import { outbox, type Waiting } from "./outbox";

interface Props {
  waiting: readonly Waiting[];
  /** Of another data file than the one that the server has open. */
  elsewhere: readonly Waiting[];
  against: readonly string[];
}

/** What is written here and not on the server yet, and what was not taken, with what to do. */
export function OutboxList({ waiting, elsewhere, against }: Props) {
  if (waiting.length + elsewhere.length + against.length === 0) return null;
  const refused = waiting.filter((one) => one.refused !== undefined);
  const onTheWay = waiting.filter((one) => one.refused === undefined);
  return (
    <section className="card print:hidden" aria-label="Not sent yet" data-testid="outbox">
      {onTheWay.length > 0 && (
        <>
          <h2 className="text-lg">
            {onTheWay.length === 1
              ? "One entry waits on this device"
              : `${onTheWay.length} entries wait on this device`}
          </h2>
          <p className="text-ash">They are sent in this order as soon as Odd Kettle answers.</p>
          <ol className="list-decimal pl-6">
            {onTheWay.map((one) => (
              <li key={one.key}>
                {one.says}{" "}
                <Button look="link" className="min-h-9" onClick={() => void outbox.drop(one.key)}>
                  take it back
                </Button>
              </li>
            ))}
          </ol>
        </>
      )}
      {refused.length > 0 && (
        <div role="alert">
          <h2 className="text-lg text-danger">▲ Not taken</h2>
          <ul className="list-disc pl-6">
            {refused.map((one) => (
              <li key={one.key}>
                {one.says}: {one.refused}
                <span className="ml-2 inline-flex gap-2">
                  <Button onClick={() => void outbox.again(one.key)}>Try again</Button>
                  <Button onClick={() => void outbox.drop(one.key)}>Drop it</Button>
                </span>
              </li>
            ))}
          </ul>
        </div>
      )}
      {elsewhere.length > 0 && (
        <div role="status" data-testid="elsewhere">
          <h2 className="text-lg">Kept for another data file</h2>
          <p className="text-ash">
            Odd Kettle has another data file open than the one these were noted for. They are sent
            when it opens that one again.
          </p>
          <ul className="list-disc pl-6">
            {elsewhere.map((one) => (
              <li key={one.key}>
                {one.title}, {one.entry.at.slice(0, 16).replace("T", " ")}: {one.says}{" "}
                <Button look="link" className="min-h-9" onClick={() => void outbox.drop(one.key)}>
                  Drop it
                </Button>
              </li>
            ))}
          </ul>
        </div>
      )}
      {against.length > 0 && (
        <div role="status">
          <h2 className="text-lg">Another device said otherwise</h2>
          <ul className="list-disc pl-6">
            {against.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
          <p className="text-ash">Take the wrong one out on the Log page.</p>
          <Button className="mt-1" onClick={() => outbox.dismiss()}>
            Seen
          </Button>
        </div>
      )}
    </section>
  );
}
