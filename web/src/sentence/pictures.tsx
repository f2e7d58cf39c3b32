import type { ReactNode } from "react";

/** Small pictures of kinds of box and of ways to charge, drawn in the colour of the text. */
const DRAWN: Record<string, ReactNode> = {
  lead: (
    <>
      <rect x="5" y="14" width="38" height="22" rx="2" />
      <path d="M11 14v-4h6v4M31 14v-4h6v4M5 20h38M12 36V24M19 36V24M26 36V24M33 36V24" />
    </>
  ),
  lithium: (
    <>
      <rect x="5" y="14" width="38" height="22" rx="4" />
      <path d="M11 14v-3h5v3M32 14v-3h5v3M26 17l-6 9h8l-6 8" />
    </>
  ),
  unit: (
    <>
      <rect x="6" y="14" width="36" height="23" rx="5" />
      <path d="M14 14V8h20v6" />
      <circle cx="15" cy="28" r="4" />
      <path d="M25 24h11v4H25zM25 32h4M32 32h4" />
    </>
  ),
  folding: <path d="M4 36l10-24 10 24zM24 36l10-24 10 24zM10 24h8M30 24h8M4 36h40" />,
  roof: (
    <>
      <path d="M4 30h40v6H4zM9 30l4-10h22l4 10" />
      <path d="M14 14h22l3 4H11z" />
      <circle cx="13" cy="38" r="3" />
      <circle cx="35" cy="38" r="3" />
    </>
  ),
  driving: (
    <>
      <circle cx="24" cy="24" r="15" />
      <circle cx="24" cy="24" r="4" />
      <path d="M9 24h11M28 24h11M24 28v11" />
    </>
  ),
  socket: (
    <>
      <circle cx="24" cy="24" r="14" />
      <circle cx="24" cy="24" r="7" />
      <path d="M24 21v6M8 32l6-3M40 32l-6-3" />
    </>
  ),
  relay: (
    <>
      <path d="M4 32h12M32 32h12M16 32l15-10M20 8h8v10h-8z" />
      <circle cx="16" cy="32" r="2" />
      <circle cx="32" cy="32" r="2" />
    </>
  ),
  mains: (
    <>
      <path d="M14 20h20v8a10 10 0 01-20 0zM19 20v-9M29 20v-9M24 38v6" />
    </>
  ),
  generator: (
    <>
      <rect x="6" y="14" width="36" height="22" rx="3" />
      <path d="M14 14V9h14v5M12 36v4M36 36v4M28 20h9M28 25h9" />
      <circle cx="17" cy="25" r="6" />
    </>
  ),
};

/** Of what has no picture of its own. */
const BOLT = <path d="M27 6L13 27h10l-3 15 15-22H25z" />;

/** One of the small pictures. */
export function Picture({ of }: { of: string }) {
  return (
    <svg
      viewBox="0 0 48 48"
      className="size-11 shrink-0"
      fill="none"
      stroke="currentColor"
      strokeWidth="2.2"
      strokeLinejoin="round"
      strokeLinecap="round"
      aria-hidden="true"
    >
      {DRAWN[of] ?? BOLT}
    </svg>
  );
}
