import { type ReactNode, Suspense, useCallback, useRef, useState } from "react";
import { type Asked, SumContext } from "../plan/sums";
import { part } from "./part";

const SumPopover = part(() => import("./SumSheet"));

/** Gives every figure below it a sheet that shows how it was made; one sheet for all. */
export function SumProvider({ children }: { children: ReactNode }) {
  const [trail, setTrail] = useState<Asked[]>([]);
  const anchor = useRef<HTMLElement | null>(null);
  const open = useCallback((asked: Asked, element: HTMLElement) => {
    anchor.current = element;
    setTrail([asked]);
  }, []);
  return (
    <SumContext value={open}>
      {children}
      {trail.length > 0 && (
        <Suspense fallback={null}>
          <SumPopover trail={trail} onTrail={setTrail} anchor={anchor} />
        </Suspense>
      )}
    </SumContext>
  );
}
