import { DropdownMenu } from "radix-ui";
import type { Box, Fresh } from "../../api/client";
import { gravest, Mark, useJudgementsOf } from "../../plan/judgements";
import { sourcesOf } from "../../sources";
import { Button } from "../../ui/Button";
import { addable, canAdd, isOn, type PartKey, sourcesInOrder } from "./parts";

interface Props {
  box: Box;
  chosen: PartKey;
  onChoose: (part: PartKey) => void;
  /** What a new part is, once that is known. */
  fresh: Fresh | undefined;
  onAdd: (what: string, text: string) => void;
}

/** Parts that are no source, and the menu that adds one of any kind. */
export function PartsBar({ box, chosen, onChoose, fresh, onAdd }: Props) {
  const parts: [PartKey, string][] = [];
  if (box.inverter) parts.push(["inverter", `Inverter, ${box.inverter.rating_w} W`]);
  if (box.converter && box.system_v > 12) {
    parts.push(["converter", `12 V converter, ${box.converter.limit_a} A`]);
  }
  if (box.second) parts.push(["second", box.second.on ? "Second bank" : "Second bank, off"]);
  if (box.unit) parts.push(["unit", `Ready-made, ${box.unit.capacity_wh} Wh`]);
  parts.push([
    "warmth",
    box.heater ? `Warmth, ${box.heater.power_w} W pads` : "Temperature and location",
  ]);
  if (sourcesOf(box).length > 1) {
    parts.push(["joining", JOINED[box.joining.kind]]);
  }
  for (const { key, name } of sourcesInOrder(box)) {
    if (!isOn(box, key)) parts.push([key, `${name}, off`]);
  }
  return (
    <div className="mt-2 flex flex-wrap items-center gap-2">
      {parts.map(([key, text]) => (
        <Button
          look="bare"
          key={key}
          className={`key ${chosen === key ? "key-on" : ""}`}
          aria-pressed={chosen === key}
          onClick={() => onChoose(key)}
        >
          {text}
          <PartMark part={key} />
        </Button>
      ))}
      <DropdownMenu.Root>
        <DropdownMenu.Trigger asChild>
          <Button>+ Add a part</Button>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className="pop" align="start" sideOffset={6} collisionPadding={10}>
            {fresh &&
              addable(fresh).map(([what, text]) => (
                <DropdownMenu.Item
                  key={what}
                  className="menu-item"
                  disabled={!canAdd(box, what, fresh)}
                  onSelect={() => onAdd(what, text)}
                >
                  + {text}
                </DropdownMenu.Item>
              ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </div>
  );
}

/** The gravest judgement of a part that has no place in the drawing; notes stay on the sheet. */
function PartMark({ part }: { part: PartKey }) {
  const worst = gravest(useJudgementsOf(part));
  return worst && worst !== "note" ? <Mark severity={worst} /> : null;
}

const JOINED = {
  independent: "Each charger by itself",
  combined: "One combined charger",
  selector: "A selector switch",
} as const;
