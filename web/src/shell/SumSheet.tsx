import { Popover } from "radix-ui";
import { type RefObject, useEffect, useState } from "react";
import { answer, client, Refusal, type Sum } from "../api/client";
import { usePlanPart } from "../plan/context";
import { type Asked, STANDING } from "../plan/sums";
import { Button } from "../ui/Button";

interface Props {
  /** Figures opened one from another; the last is shown. */
  trail: Asked[];
  onTrail: (trail: Asked[]) => void;
  anchor: RefObject<HTMLElement | null>;
}

/** The sheet itself; loaded when the first figure is opened. */
export default function SumPopover({ trail, onTrail, anchor }: Props) {
  const shown = trail[trail.length - 1];
  if (!shown) return null;
  return (
    <Popover.Root open onOpenChange={(next) => !next && onTrail([])}>
      <Popover.Anchor virtualRef={anchor as RefObject<HTMLElement>} />
      <Popover.Portal>
        <Popover.Content
          className="pop sum"
          side={sideOf(anchor.current)}
          sideOffset={6}
          collisionPadding={10}
          aria-label="How this figure was made"
          data-testid="sum"
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            anchor.current?.focus();
          }}
        >
          <SumSheet
            asked={shown}
            onOpen={(figure) => onTrail([...trail, { ...shown, figure }])}
            onBack={trail.length > 1 ? () => onTrail(trail.slice(0, -1)) : undefined}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** Below what stands high on the screen; else beside it, where a sheet has the whole height. */
function sideOf(anchor: HTMLElement | null): "bottom" | "left" | "right" {
  const box = anchor?.getBoundingClientRect();
  if (!box || box.bottom < window.innerHeight / 3) return "bottom";
  return box.left + box.width / 2 > window.innerWidth / 2 ? "left" : "right";
}

/** The sum of a figure for the plan on screen; the last one stays while the next is made. */
function useSum({ figure, day, given }: Asked): { sum: Sum | null; text: string | null } {
  const draft = usePlanPart((state) => state.draft);
  const sky = usePlanPart((state) => state.sky);
  const planId = usePlanPart((state) => state.plan.id);
  const [sum, setSum] = useState<Sum | null>(given ?? null);
  const [text, setText] = useState<string | null>(null);
  useEffect(() => {
    if (given) return;
    let wanted = true;
    const query = day === null ? { figure, sky } : { figure, day, sky };
    // Where the battery stands hangs on the log, not on what is tried on screen.
    const asked =
      figure === STANDING
        ? client.GET("/api/plans/{plan_id}/track/sum", { params: { path: { plan_id: planId } } })
        : client.POST("/api/sum", { params: { query }, body: draft });
    answer<Sum>(asked).then(
      (next) => {
        if (!wanted) return;
        setSum(next);
        setText(null);
      },
      (error: unknown) => {
        if (wanted) setText(error instanceof Refusal ? error.message : String(error));
      },
    );
    return () => {
      wanted = false;
    };
  }, [figure, day, given, draft, sky, planId]);
  return { sum, text };
}

interface SheetProps {
  asked: Asked;
  onOpen: (figure: string) => void;
  onBack?: () => void;
}

function SumSheet({ asked, onOpen, onBack }: SheetProps) {
  const { sum, text } = useSum(asked);
  if (text) return <p role="alert">{text}</p>;
  if (!sum) return <p className="text-ash">Adding up…</p>;
  return (
    <div>
      <h3 className="flex items-baseline gap-2 text-base">
        {onBack && (
          <Button look="link" onClick={onBack} aria-label="Back">
            ←
          </Button>
        )}
        {sum.title}
      </h3>
      <p className="mb-2 text-sm text-ash">{sum.text}</p>
      <table className="w-full text-[0.92rem]">
        <tbody>
          {sum.lines.map((line, i) => (
            <tr
              key={i}
              className={line.sign === "=" ? "border-t border-rim font-semibold" : "align-baseline"}
            >
              <td className="w-4 text-ash">{SIGNS[line.sign]}</td>
              <th scope="row" className="py-0.5 pr-3 text-left [font-weight:inherit]">
                {line.opens ? (
                  <Button
                    look="bare"
                    className="figure text-left"
                    onClick={() => line.opens && onOpen(line.opens)}
                  >
                    {line.text}
                  </Button>
                ) : (
                  line.text
                )}
                {line.note && (
                  <span className="block text-xs font-normal text-ash">{line.note}</span>
                )}
              </th>
              <td className="text-right whitespace-nowrap">{line.value}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {sum.constants.length > 0 && (
        <dl className="mt-2 border-t border-line pt-2 text-sm">
          {sum.constants.map((constant) => (
            <div key={constant.text} className="mb-1">
              <dt className="inline">{constant.text} </dt>
              <dd className="inline font-semibold">{constant.value}</dd>
              <dd className="text-xs text-ash">{constant.source}</dd>
            </div>
          ))}
        </dl>
      )}
    </div>
  );
}

const SIGNS = { "+": "+", "-": "−", "=": "=", "": "" } as const;
