import { Popover } from "radix-ui";
import type { Block, BlockTold, Plan } from "../../../../api/client";
import { DAY_MIN, minutesOf } from "../../../../quantities/clock";
import { Button } from "../../../../ui/Button";
import { ClockField } from "../../../../ui/fields/ClockField";
import { Switch } from "../../../../ui/fields/Switch";
import { blockFacts } from "./blocks";
import { HowItWent } from "./HowItWent";

interface Props {
  block: Block;
  plan: Plan;
  x: number;
  /** How it went by the log, once the trip is under way. */
  told: BlockTold | undefined;
  onChange: (block: Block) => void;
  onRemove: () => void;
  onClose: () => void;
}

/** A block's times, typed; opens beside the block that was clicked. */
export function BlockSheet({ block, plan, x, told, onChange, onRemove, onClose }: Props) {
  const days = plan.trip.days.length;
  const endDay = block.end_day ?? block.day;

  function refuse(start: string, end: string, nights: number): string | null {
    const length = nights * DAY_MIN + minutesOf(end) - minutesOf(start);
    if (length > 0) return null;
    return `A ${blockFacts(block.kind).text} from ${start} cannot end at ${end}. Choose an end after ${start}.`;
  }

  return (
    <Popover.Root open onOpenChange={(open) => !open && onClose()}>
      <Popover.Anchor asChild>
        <span className="pointer-events-none absolute top-0 h-full w-px" style={{ left: x }} />
      </Popover.Anchor>
      <Popover.Portal>
        <Popover.Content
          className="pop w-72"
          side="bottom"
          align="start"
          sideOffset={4}
          collisionPadding={10}
          aria-label={`Times of this ${blockFacts(block.kind).text}`}
        >
          <h3 className="mb-2 text-base capitalize">{blockFacts(block.kind).text}</h3>
          <div className="grid grid-cols-2 gap-3">
            <ClockField
              label="From"
              value={block.start}
              refuse={(start) => refuse(start, block.end, endDay - block.day)}
              onCommit={(start) => onChange({ ...block, start })}
            />
            <ClockField
              label="To"
              value={block.end}
              refuse={(end) => refuse(block.start, end, endDay - block.day)}
              onCommit={(end) => onChange({ ...block, end })}
            />
          </div>
          <label className="mt-3 flex items-center gap-2">
            <input
              type="checkbox"
              className="size-5"
              checked={endDay > block.day}
              disabled={endDay === block.day && block.day === days - 1}
              onChange={(event) => {
                const next = event.target.checked ? block.day + 1 : null;
                const shrinks =
                  !event.target.checked && minutesOf(block.end) <= minutesOf(block.start);
                onChange({ ...block, end_day: next, end: shrinks ? "24:00" : block.end });
              }}
            />
            ends on {endDay - block.day > 1 ? "a later day" : "the next day"}
          </label>
          {block.kind === "drive" && (
            <div className="mt-3">
              <Switch
                label="Standing, engine idling"
                hint="The alternator gives only part of its rating."
                checked={block.idling}
                onChange={(idling) => onChange({ ...block, idling })}
              />
            </div>
          )}
          {told && <HowItWent block={block} told={told} />}
          <Button className="mt-3" onClick={onRemove}>
            Remove it
          </Button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
