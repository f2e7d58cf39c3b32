import { SOURCES } from ".";

/** Colours of the kinds that bring their own, for both schemes. */
const STYLES = SOURCES.flatMap(({ key, colours }) =>
  colours
    ? [
        `:root{--color-${key}:${colours.day.ink};--color-${key}-tint:${colours.day.tint}}`,
        `html[data-scheme="night"]{--color-${key}:${colours.night.ink};--color-${key}-tint:${colours.night.tint}}`,
      ]
    : [],
).join("\n");

/** The pattern of every kind of source, and of what of it was held back; once for all drawings. */
export function SourcePatterns() {
  return (
    <>
      <style>{STYLES}</style>
      {SOURCES.map(({ key, pattern }) => (
        <pattern
          key={key}
          id={`pat-${key}`}
          width={pattern.tile}
          height={pattern.tile}
          patternUnits="userSpaceOnUse"
          patternTransform={pattern.turned ? `rotate(${pattern.turned})` : undefined}
        >
          <rect width={pattern.tile} height={pattern.tile} fill={`var(--color-${key})`} />
          {pattern.marks}
        </pattern>
      ))}
      {SOURCES.map(({ key }) => (
        <pattern
          key={key}
          id={`pat-held-${key}`}
          width="6"
          height="6"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(-45)"
        >
          <rect width="6" height="6" fill={`var(--color-${key}-tint)`} />
          <rect width="2" height="6" fill={`var(--color-${key})`} />
        </pattern>
      ))}
    </>
  );
}
