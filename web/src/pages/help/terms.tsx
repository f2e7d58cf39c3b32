import type { ReactNode } from "react";

export interface Topic {
  id: string;
  title: string;
  text: string;
  picture?: ReactNode;
}

const INK = { fill: "none", stroke: "currentColor", strokeWidth: 2.2 } as const;

/** A small drawing on a grid of 96 by 60. */
function Drawn({ children }: { children: ReactNode }) {
  return (
    <svg viewBox="0 0 96 60" className="h-16 w-26 shrink-0" aria-hidden="true" {...INK}>
      {children}
    </svg>
  );
}

/** The terms, in the order in which one meets them. */
export const TERMS: readonly Topic[] = [
  {
    id: "level",
    title: "Level",
    text: "How full the battery is, from 0 to 100 %. Books call it the state of charge. What is missing from 100 % is the depth of discharge.",
    picture: (
      <Drawn>
        <rect x="20" y="10" width="50" height="42" rx="4" />
        <path d="M20 30h50v22H20z" fill="var(--color-level-tint)" stroke="none" />
        <path d="M20 30h50" />
      </Drawn>
    ),
  },
  {
    id: "reserve",
    title: "Reserve",
    text: "The level that you do not want to go under. A trip that goes under it counts as one that did not last. Half is usual for lead, a fifth for lithium.",
    picture: (
      <Drawn>
        <path d="M6 12c20 0 24 30 44 30s20-14 40-14" />
        <path d="M6 46h84" stroke="var(--color-danger)" strokeDasharray="5 4" />
      </Drawn>
    ),
  },
  {
    id: "trips-of-10",
    title: "In 7 of 10 tries",
    text: "Nobody knows the weather. The same trip is tried some 200 times, each with weather, warmth and habits of its own that are likely for the place and the month. Seven of ten of them lasted.",
    picture: (
      <Drawn>
        {[0, 1, 2, 3, 4, 5, 6, 7, 8, 9].map((n) => (
          <circle
            key={n}
            cx={12 + (n % 5) * 18}
            cy={18 + Math.floor(n / 5) * 24}
            r="7"
            fill={n < 7 ? "var(--color-level)" : "none"}
          />
        ))}
      </Drawn>
    ),
  },
  {
    id: "band",
    title: "The band around the line",
    text: "The line is what to expect. In 8 of 10 tries the level stays inside the band. The further ahead, the wider it is.",
    picture: (
      <Drawn>
        <path
          d="M6 22c30 0 40 8 84-8v32c-44 8-54-20-84-20z"
          fill="var(--color-level-tint)"
          stroke="none"
        />
        <path d="M6 24c30 0 50 8 84 6" />
      </Drawn>
    ),
  },
  {
    id: "ah-and-wh",
    title: "Ah and Wh",
    text: "Amp-hours count charge, watt-hours count energy. 10 Ah at 12.8 V are 128 Wh. One switch in the header changes all figures.",
  },
  {
    id: "dcdc",
    title: "DC-DC charger (booster)",
    text: "It takes what the vehicle's alternator gives and lifts it to what the battery needs. Its amps are its limit; a thin cable can hold it lower.",
  },
  {
    id: "relay",
    title: "Relay (isolator)",
    text: "It joins the two batteries while the engine runs. It is cheap, and what flows depends on the voltages and the cable alone.",
  },
  {
    id: "controller",
    title: "Solar controller, tracking or PWM",
    text: "A tracking controller works the panel at its best voltage and turns what is left over into amps. A simple (PWM) one holds the panel at the battery's voltage and loses about a quarter.",
  },
  {
    id: "absorption",
    title: "Absorption and float",
    text: "Charging ends in two steps. In absorption the charger holds a high voltage while the battery takes less and less. In float it only keeps it full.",
    picture: (
      <Drawn>
        <path d="M6 50L36 14H60v14h30" />
      </Drawn>
    ),
  },
  {
    id: "clearness",
    title: "Clearness",
    text: "How much of a clear day's light gets through. A clear day has 1, a grey one 0.3, a heavy one 0.15.",
  },
  {
    id: "shunt",
    title: "Shunt and counters",
    text: "A shunt is a small known resistance in the negative lead. A monitor counts what flows through it, in and out, and works out a percentage.",
  },
  {
    id: "cycle",
    title: "Full cycle",
    text: "From full to empty and back once, or twice from full to half. A battery is good for so many of them, and fewer the deeper each goes.",
  },
];

/** How things are done. */
export const GUIDES: readonly Topic[] = [
  {
    id: "open-on-a-phone",
    title: "Open it on a phone",
    text: "Start it with oddkettle serve --share and a pass phrase in ODDKETTLE_PASS_PHRASE. On the first page press Open it on a phone, choose what the phone may do, and show a code. The phone’s camera opens the address from the picture. What is sent crosses your network unencrypted, so do this on your own network. On a network that others use, let a proxy on the same machine add TLS, and check from another device that it asks for a code.",
  },
  {
    id: "measure-fridge",
    title: "Measure a fridge",
    text: "Set it as you use it and let it cool down first. Note the counter of amp-hours out, wait a day with the lid opened as usual, and note it again. On the Use page open the appliance, then Measure it, and type both. An hour says little: a compressor runs in bursts.",
  },
  {
    id: "read-a-panel-label",
    title: "Find Imp on a panel's label",
    text: "A label has two voltages and two currents. Voc and Isc are with nothing connected, and shorted. Vmp and Imp are at its best power; Vmp times Imp is its watts. Imp tells what a simple controller passes. Isc sizes fuses and cables.",
    picture: (
      <Drawn>
        <rect x="8" y="4" width="80" height="52" rx="4" />
        <path d="M16 16h30M16 26h30M16 36h30M16 46h30" strokeWidth="1.4" />
        <path d="M54 36h26" stroke="var(--color-sun)" strokeWidth="5" />
      </Drawn>
    ),
  },
  {
    id: "read-a-battery-label",
    title: "Read a battery's label",
    text: "Ah is the capacity, usually over 20 hours. Wh divided by the nominal voltage gives Ah. C20 or C10 says over how many hours. The charge voltage on the label goes before any general figure.",
  },
  {
    id: "rested-voltage",
    title: "Take a rested voltage",
    text: "Switch everything off that charges or runs. Wait an hour for lithium, four for lead. Read at the battery's own posts. On lithium the voltage says little between 30 and 90 %.",
  },
];

/** Which page answers which question. */
export const ANSWERED_BY: readonly (readonly [string, string])[] = [
  ["Will it last, and how sure is that?", "Trip"],
  ["Where is it tight, and on which night?", "Trip"],
  ["What takes most?", "Use"],
  ["What holds my box back?", "Box"],
  ["What helps most, and what does it cost?", "Improve"],
  ["How long must I drive to be sure?", "Improve, What to buy?"],
  ["Which size should I buy?", "Improve, What to buy?"],
  ["Where does it stand now, by what I read?", "Log"],
  ["Which fuse, which cable, in which order?", "Build"],
];
