/** Pale ground of what a source offered and did not get in. */
const HELD = {
  sun: "var(--color-sun-tint)",
  vehicle: "var(--color-vehicle-tint)",
  mains: "var(--color-mains-tint)",
} as const;

/**
 * The pattern of each energy source and of a guess, defined once for every drawing.
 * Sun: dots. Vehicle: slanted treads. Mains: upright bars. A guess: thin hatching.
 */
export function Patterns() {
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
        <pattern id="pat-sun" width="7" height="7" patternUnits="userSpaceOnUse">
          <rect width="7" height="7" fill="var(--color-sun)" />
          <circle cx="2" cy="2" r="1" fill="var(--color-grain)" fillOpacity=".55" />
          <circle cx="5.5" cy="5.5" r="1" fill="var(--color-grain)" fillOpacity=".55" />
        </pattern>
        <pattern
          id="pat-vehicle"
          width="7"
          height="7"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="7" height="7" fill="var(--color-vehicle)" />
          <rect width="2" height="7" fill="var(--color-grain)" fillOpacity=".28" />
        </pattern>
        <pattern id="pat-gone" width="7" height="7" patternUnits="userSpaceOnUse">
          <circle cx="1.5" cy="1.5" r="0.8" fill="var(--color-ink)" fillOpacity=".17" />
        </pattern>
        <pattern id="pat-band" width="4" height="4" patternUnits="userSpaceOnUse">
          <rect width="4" height="4" fill="var(--color-level)" fillOpacity=".26" />
          <rect width="4" height="1" fill="var(--color-level)" fillOpacity=".4" />
        </pattern>
        <pattern id="pat-mains" width="6" height="6" patternUnits="userSpaceOnUse">
          <rect width="6" height="6" fill="var(--color-mains)" />
          <rect width="1.6" height="6" fill="var(--color-grain)" fillOpacity=".3" />
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
        {(["sun", "vehicle", "mains"] as const).map((kind) => (
          <pattern
            key={kind}
            id={`pat-held-${kind}`}
            width="6"
            height="6"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(-45)"
          >
            <rect width="6" height="6" fill={HELD[kind]} />
            <rect width="2" height="6" fill={`var(--color-${kind})`} />
          </pattern>
        ))}
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
