import { useReference } from "../../plan/useReference";

/** Cautions about some parts, where the decision is made. */
export function Cautions({ about }: { about: readonly string[] }) {
  const cautions = useReference()?.cautions.filter((one) =>
    one.about.some((part) => about.includes(part)),
  );
  if (!cautions?.length) return null;
  return (
    <div className="mt-2 flex flex-col gap-1.5 border-t border-line pt-2" data-testid="cautions">
      {cautions.map((caution) => (
        <details key={caution.key} className="caution">
          <summary>
            <span aria-hidden="true">▲</span> {caution.title}
          </summary>
          <p className="mt-1 text-sm">{caution.text}</p>
          <p className="text-xs text-ash">{caution.source}</p>
        </details>
      ))}
    </div>
  );
}
