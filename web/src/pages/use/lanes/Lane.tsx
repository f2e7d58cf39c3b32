import type { KeyboardEvent } from "react";
import type { Appliance, RunReport } from "../../../api/client";
import { usePlanPart, useUnit } from "../../../plan/context";
import { gravest, Mark, useJudgementsOf } from "../../../plan/judgements";
import { Figure } from "../../../plan/sums";
import { DAY_MIN } from "../../../quantities/clock";
import { amountIn, amountText, shortFigure } from "../../../quantities/units";
import { Button } from "../../../ui/Button";
import { Popover } from "../../../ui/Popover";
import { datumUnder, useDrag } from "../../../ui/useDrag";
import { ApplianceSheet } from "../ApplianceSheet";
import { startsOf } from "./flexible";
import { LaneBar } from "./LaneBar";
import { type DayKind, hoursFor, KIND_SAYS, pieces, type Stretch, stretchOf } from "./lanes";

type UseDraw = RunReport["use"]["draws"][number];

export interface LaneActions {
  pull: (appliance: Appliance, index: number, stretch: Stretch) => void;
  release: (did: string) => void;
  keyPull: (appliance: Appliance, index: number, stretch: Stretch) => void;
  preview: (next: Appliance) => void;
  change: (next: Appliance, did: string) => void;
  move: (id: string, to: number, done: boolean) => void;
  duplicate: (id: string) => void;
  remove: (appliance: Appliance) => void;
}

interface Props {
  appliance: Appliance;
  place: number;
  draw: UseDraw;
  width: number;
  most: number;
  mostA: number;
  night: React.ReactNode;
  hasInverter: boolean;
  kind: DayKind;
  open: boolean;
  onOpen: (open: boolean) => void;
  actions: LaneActions;
}

const HEIGHT = 40;
/** Header and level strip: the sheet leaves them in sight, for that is what it moves. */
const CLEAR_OF_STRIP = 142;
const SUPPLY = { "12v": "12 V", usb: "USB", inverter: "inverter" } as const;

export function Lane(props: Props) {
  const { appliance, place, draw, width, most, mostA, night, hasInverter, kind, actions } = props;
  const unit = useUnit();
  const days = usePlanPart((state) => state.draft.trip.days);
  const guess = appliance.figure === "guess";
  const hours = hoursFor(appliance, kind);
  const borrowed = kind !== "site" && appliance[`${kind}_hours`] == null;
  const open = hoursFor(appliance, "site").reduce(
    (sum, one) => sum + stretchOf(one).length / 60,
    0,
  );
  // Of its hours; a fridge's own share moves with the air.
  const share = (100 * (draw.a_day.wh - draw.lost_wh)) / (appliance.power_w * Math.max(open, 0.01));
  const worst = gravest(useJudgementsOf(`appliance:${appliance.id}`));
  // The root lets a phone charger be seen beside a kettle.
  const tall = Math.max(4, (HEIGHT - 4) * Math.sqrt(draw.running_a / Math.max(mostA, 1e-9)));

  const sorted = useDrag<true>({
    begin: () => true,
    move: (_, event) => {
      const under = datumUnder(event, "lane");
      if (under !== undefined) actions.move(appliance.id, Number(under), false);
    },
    end: () => actions.release(`moved ${appliance.name}`),
  });
  function sortKey(event: KeyboardEvent) {
    const by = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    actions.move(appliance.id, place + by, true);
  }

  return (
    <div
      data-lane={place}
      className="grid grid-cols-[1.4rem_1fr_auto] items-center gap-x-2 border-b border-line/70 py-0.5 sm:grid-cols-[1.4rem_12.5rem_1fr_10.5rem]"
    >
      <Button
        look="bare"
        className="grab h-9 rounded text-ash"
        aria-label={`Move ${appliance.name}: arrows up and down`}
        {...sorted()}
        onKeyDown={sortKey}
      >
        ⠿
      </Button>
      <Popover
        title={appliance.name}
        side="right"
        clear={CLEAR_OF_STRIP}
        open={props.open}
        onOpenChange={props.onOpen}
        trigger={
          <Button
            look="bare"
            className="min-h-9 min-w-0 rounded-lg px-1 text-left leading-tight hover:bg-line/40"
          >
            <span className="flex items-center gap-1.5 font-head font-semibold">
              <span className={`truncate ${appliance.on ? "" : "line-through"}`}>
                {appliance.name}
              </span>
              {worst && <Mark severity={worst} />}
            </span>
            <span className="flex justify-between gap-2 text-sm text-ash">
              <span>
                {SUPPLY[appliance.supply]} · {shortFigure(appliance.power_w)} W
              </span>
              <span className={guess ? "text-use" : ""}>
                {!appliance.on
                  ? "off"
                  : guess
                    ? "▨ guess"
                    : appliance.figure === "learned"
                      ? "◪ learned"
                      : "■ measured"}
              </span>
            </span>
          </Button>
        }
      >
        <ApplianceSheet
          appliance={appliance}
          daily={draw.a_day}
          ampsPerWatt={draw.running_a / appliance.power_w}
          hasInverter={hasInverter}
          kind={kind}
          onPreview={actions.preview}
          onChange={actions.change}
          onMove={(by) => actions.move(appliance.id, place + by, true)}
          onDuplicate={() => actions.duplicate(appliance.id)}
          onRemove={() => actions.remove(appliance)}
        />
      </Popover>
      <svg
        width={width}
        height={HEIGHT}
        className="order-last col-span-3 block rounded-[5px] sm:order-none sm:col-span-1"
        role="group"
        aria-label={`Hours of ${appliance.name}`}
      >
        {night}
        {appliance.on &&
          hours.map((window, index) => (
            <LaneBar
              key={index}
              appliance={appliance}
              hours={window}
              borrowed={borrowed}
              width={width}
              height={HEIGHT}
              tall={tall}
              onPull={(stretch) => actions.pull(appliance, index, stretch)}
              onRelease={() => actions.release(`changed the hours of ${appliance.name}`)}
              onKeyPull={(stretch) => actions.keyPull(appliance, index, stretch)}
            />
          ))}
        {appliance.on && appliance.flexible && hours.length > 0 && (
          <FlexibleRuns
            appliance={appliance}
            starts={startsOf(appliance, kind, days)}
            width={width}
            tall={tall}
          />
        )}
        {(!appliance.on || hours.length === 0) && (
          <text x={width / 2} y={HEIGHT / 2 + 5} textAnchor="middle" fill="var(--color-ash)">
            {appliance.on ? `not on ${KIND_SAYS[kind]}` : "switched off"}
          </text>
        )}
      </svg>
      <DayUse
        figure={`appliance:${appliance.id}`}
        name={appliance.name}
        text={amountText(draw.a_day, unit)}
        share={amountIn(draw.a_day, unit) / Math.max(most, 1e-9)}
        guess={guess}
        note={`${appliance.flexible && appliance.on ? `${appliance.flexible.minutes} min${appliance.flexible.each === "trip" ? " once" : ""}` : share < 99.5 && appliance.on ? `runs ${Math.round(share)} %` : `${shortFigure(draw.running_a)} A`}${guess ? ` · ± ${shortFigure(appliance.spread_percent)} %` : ""}`}
      />
    </div>
  );
}

interface RunsProps {
  appliance: Appliance;
  /** Minutes of the noon axis at which it begins on some day. */
  starts: readonly number[];
  width: number;
  tall: number;
}

/** Where a flexible load runs within its hours; a press goes through to the hours below. */
function FlexibleRuns({ appliance, starts, width, tall }: RunsProps) {
  const minutes = appliance.flexible?.minutes ?? 0;
  const perMin = width / DAY_MIN;
  const ink = appliance.figure === "guess" ? "url(#pat-guess)" : "var(--color-use)";
  return (
    <g pointerEvents="none" data-testid={`runs-${appliance.id}`}>
      {starts.flatMap((from) =>
        pieces({ from, length: minutes }).map((part) => (
          <rect
            key={`${from}-${part.from}`}
            x={part.from * perMin}
            y={HEIGHT - tall}
            width={Math.max((part.to - part.from) * perMin, 2.5)}
            height={tall}
            rx="2"
            fill={ink}
            stroke="var(--color-use)"
          />
        )),
      )}
    </g>
  );
}

interface DayUseProps {
  /** The figure that it opens to. */
  figure: string;
  name: string;
  text: string;
  share: number;
  guess: boolean;
  note: string;
}

export function DayUse({ figure, name, text, share, guess, note }: DayUseProps) {
  return (
    <div className="flex items-center gap-2 sm:block">
      <div className="flex items-center gap-2">
        <span className="w-12 text-right font-head text-lg leading-tight font-semibold">
          <Figure of={figure} label={`${name}: ${text} a day`}>
            {text}
          </Figure>
        </span>
        <svg className="hidden h-2.5 flex-1 sm:block" aria-hidden="true">
          <rect
            width={`${100 * share}%`}
            height="10"
            rx="2"
            fill={guess ? "url(#pat-guess)" : "var(--color-use)"}
          />
        </svg>
      </div>
      <div className="hidden text-sm text-ash sm:block sm:pl-14">{note}</div>
    </div>
  );
}
