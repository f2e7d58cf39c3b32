import type { ReactNode } from "react";

/**
 * The patterns that all drawings use, defined once; those of the sources are given as children.
 */
export function Patterns({ children }: { children: ReactNode }) {
  return (
    <svg width="0" height="0" className="absolute" aria-hidden="true">
      <defs>
        <linearGradient id="dawn">
          <stop offset="0" stopColor="var(--color-night)" />
          <stop offset="1" stopColor="var(--color-day)" />
        </linearGradient>
        <linearGradient id="dusk">
          <stop offset="0" stopColor="var(--color-day)" />
          <stop offset="1" stopColor="var(--color-night)" />
        </linearGradient>
        <pattern id="pat-gone" width="7" height="7" patternUnits="userSpaceOnUse">
          <circle cx="1.5" cy="1.5" r="0.8" fill="var(--color-ink)" fillOpacity=".17" />
        </pattern>
        <pattern id="pat-band" width="4" height="4" patternUnits="userSpaceOnUse">
          <rect width="4" height="4" fill="var(--color-level)" fillOpacity=".24" />
        </pattern>
        <pattern
          id="pat-guess"
          width="6"
          height="6"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="6" height="6" fill="var(--color-use-tint)" />
          <rect width="1.8" height="6" fill="var(--color-use)" />
        </pattern>
        {children}
        <pattern
          id="pat-outage"
          width="8"
          height="8"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="8" height="8" fill="var(--color-danger-tint)" />
          <rect width="2.4" height="8" fill="var(--color-danger)" fillOpacity=".55" />
        </pattern>
        <pattern id="pat-quiet" width="4" height="4" patternUnits="userSpaceOnUse">
          <rect width="4" height="4" fill="var(--color-band)" />
          <rect width="1.4" height="4" fill="var(--color-ash)" />
        </pattern>
        <pattern
          id="pat-below"
          width="5"
          height="5"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="1.4" height="5" fill="var(--color-danger)" />
        </pattern>
      </defs>
    </svg>
  );
}
