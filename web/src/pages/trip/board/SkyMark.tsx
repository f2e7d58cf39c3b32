import { DropdownMenu } from "radix-ui";
import { memo } from "react";
import type { SkyKey } from "../../../api/client";
import { Button } from "../../../ui/Button";

export const SKIES: readonly { key: SkyKey; text: string; bright: number }[] = [
  { key: "clear", text: "clear", bright: 1 },
  { key: "some_cloud", text: "some cloud", bright: 0.78 },
  { key: "mostly_cloudy", text: "mostly cloudy", bright: 0.5 },
  { key: "overcast", text: "overcast", bright: 0.24 },
  { key: "heavy", text: "heavy overcast or rain", bright: 0.08 },
  { key: "usual", text: "usual for the season", bright: -1 },
];

export function skyText(key: SkyKey): string {
  return SKIES.find((sky) => sky.key === key)?.text ?? key;
}

/** A kettle lid of light: the brighter the sky, the fuller the disc. */
export function SkyDisc({ sky, size = 18 }: { sky: SkyKey; size?: number }) {
  const bright = SKIES.find((other) => other.key === sky)?.bright ?? 0;
  const level = 20 - 16 * Math.max(bright, 0);
  return (
    <svg width={size} height={size} viewBox="0 0 24 24" aria-hidden="true">
      <clipPath id={`lit-${sky}`}>
        <rect x="0" y={level} width="24" height="24" />
      </clipPath>
      <circle
        cx="12"
        cy="12"
        r="9"
        fill="var(--color-paper)"
        stroke="var(--color-sun-ink)"
        strokeWidth="2"
      />
      {bright < 0 ? (
        <text x="12" y="16.5" textAnchor="middle" fontSize="13" fontWeight="700">
          ?
        </text>
      ) : (
        <circle cx="12" cy="12" r="8" fill="var(--color-sun)" clipPath={`url(#lit-${sky})`} />
      )}
    </svg>
  );
}

interface Props {
  sky: SkyKey;
  label: string;
  index: number;
  onChange: (day: number, sky: SkyKey) => void;
}

/** A day's sky; a click changes it. */
export const SkyMark = memo(function SkyMark({ sky, label, index, onChange }: Props) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Button
          look="bare"
          className="grid size-9 place-items-center rounded-full hover:bg-line/60 sm:size-8"
          aria-label={`Sky on ${label}: ${skyText(sky)}. Change it`}
          title={`${skyText(sky)}: click to change`}
        >
          <SkyDisc sky={sky} />
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="pop" align="start" sideOffset={4} collisionPadding={10}>
          <DropdownMenu.RadioGroup
            value={sky}
            onValueChange={(next) => onChange(index, next as SkyKey)}
            aria-label={`Sky on ${label}`}
          >
            {SKIES.map((other) => (
              <DropdownMenu.RadioItem key={other.key} value={other.key} className="menu-item">
                <SkyDisc sky={other.key} />
                {other.text}
                {other.key === sky && <span className="ml-auto pl-3 text-ash">now</span>}
              </DropdownMenu.RadioItem>
            ))}
          </DropdownMenu.RadioGroup>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
});
