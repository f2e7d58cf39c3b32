import type { ReactNode } from "react";
import { Popover } from "../ui/Popover";
import { Sheet, type SheetProps } from "./Sheet";
import type { Choices, PartKey, Piece, Sentence } from "./sentence";

interface Props {
  pieces: readonly Piece[];
  sentence: Sentence;
  choices: Choices;
  /** Parts that nobody said. */
  supposed?: ReadonlySet<PartKey>;
  /** Large on the first page, a line on a plan's pages. */
  look?: "large" | "line";
  uses?: SheetProps["uses"];
  ofPlan?: boolean;
  /** The answer that stands, for where the sheet covers it. */
  above?: ReactNode;
  /** What stands beneath the sheet of a part. */
  below?: (part: PartKey) => ReactNode;
  open: PartKey | null;
  onOpen: (part: PartKey | null) => void;
  onChange: (next: Sentence) => void;
}

export const TITLES: Record<PartKey, string> = {
  bank: "What is the box?",
  chargers: "What charges it?",
  length: "For how long?",
  place: "Where?",
  when: "When?",
  things: "What do you run?",
  shape: "What is it for?",
};
/** Each part keeps the colour of what it is about. */
const UNDER: Record<PartKey, string> = {
  bank: "border-level",
  chargers: "border-sun",
  length: "border-rim",
  place: "border-rim",
  when: "border-rim",
  things: "border-use",
  shape: "border-edge",
};

const LOOKS = {
  large: "font-head text-[1.45rem] leading-[1.65] font-semibold text-balance sm:text-[2rem]",
  line: "text-ash max-sm:line-clamp-2",
};
const PART_LOOKS = {
  large: "border-b-[3px]",
  line: "border-b-2 text-ink",
};
const NOTHING: ReadonlySet<PartKey> = new Set();

/** The sentence, each part of which opens its sheet. */
export function SentenceWords(props: Props) {
  const { pieces, sentence, choices, supposed = NOTHING, open, onOpen, onChange } = props;
  const { look = "large", uses, ofPlan, above, below } = props;
  return (
    <p className={LOOKS[look]} data-testid={ofPlan ? "plan-sentence" : undefined}>
      {pieces.map((piece, i) => {
        const { part } = piece;
        const glued = /^[,.?]/.test(piece.text) || i === 0;
        if (!part) return <span key={i}>{`${glued ? "" : " "}${piece.text}`}</span>;
        return (
          <span key={part}>
            {" "}
            <Popover
              title={TITLES[part]}
              above={above}
              open={open === part}
              onOpenChange={(next) => onOpen(next ? part : null)}
              trigger={
                // A button would not break over lines as words do.
                <span
                  role="button"
                  tabIndex={0}
                  data-part={part}
                  className={`cursor-pointer rounded-t ${PART_LOOKS[look]} box-decoration-clone px-0.5 hover:bg-hover data-[state=open]:bg-hover ${UNDER[part]} ${
                    supposed.has(part) ? "border-dotted text-ash" : ""
                  }`}
                  title={supposed.has(part) ? "Nobody said so: press to say it" : undefined}
                  onKeyDown={(event) => {
                    if (event.key !== "Enter" && event.key !== " ") return;
                    event.preventDefault();
                    event.currentTarget.click();
                  }}
                >
                  {piece.text}
                  {supposed.has(part) && <span className="sr-only"> (supposed)</span>}
                </span>
              }
            >
              <Sheet
                part={part}
                sentence={sentence}
                choices={choices}
                uses={uses}
                ofPlan={ofPlan}
                onChange={onChange}
              />
              {below?.(part)}
            </Popover>
          </span>
        );
      })}
    </p>
  );
}
