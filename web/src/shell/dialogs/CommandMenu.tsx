import { Command } from "cmdk";
import { use } from "react";
import { useNavigate } from "react-router";
import { GUIDES, TERMS } from "../../pages/help/terms";
import { SchemeContext, UnitContext, usePlanPart, usePlanStore } from "../../plan/context";
import { useJudgements, withRemedy } from "../../plan/judgements";
import { HabitsContext } from "../../quantities/useHabits";
import { Dialog } from "../../ui/Dialog";
import { PAGES } from "../pages";

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  onSettings: () => void;
  onHelp: () => void;
}

interface Item {
  group: string;
  text: string;
  keys?: string;
  does: () => void;
}

/** Everything that can be done, found by typing a few letters of it. */
export default function CommandMenu({ open, onOpenChange, onSettings, onHelp }: Props) {
  return (
    <Dialog title="What would you like to do?" open={open} onOpenChange={onOpenChange}>
      {open && <Items onDone={() => onOpenChange(false)} onSettings={onSettings} onHelp={onHelp} />}
    </Dialog>
  );
}

function Items(props: { onDone: () => void; onSettings: () => void; onHelp: () => void }) {
  const items = useItems(props.onSettings, props.onHelp);
  const groups = [...new Set(items.map((item) => item.group))];
  return (
    <Command label="Commands" loop>
      <Command.Input className="field" placeholder="Type a few letters" autoFocus />
      <Command.List className="mt-2 max-h-[50vh] overflow-y-auto">
        <Command.Empty className="p-3 text-ash">Nothing is called that.</Command.Empty>
        {groups.map((group) => (
          <Command.Group key={group} heading={group}>
            {items
              .filter((item) => item.group === group)
              .map((item) => (
                <Command.Item
                  key={item.text}
                  value={`${group} ${item.text}`}
                  className="menu-item"
                  onSelect={() => {
                    props.onDone();
                    item.does();
                  }}
                >
                  <span className="flex-1">{item.text}</span>
                  {item.keys && <kbd className="text-sm text-ash">{item.keys}</kbd>}
                </Command.Item>
              ))}
          </Command.Group>
        ))}
      </Command.List>
    </Command>
  );
}

function useItems(onSettings: () => void, onHelp: () => void): Item[] {
  const store = usePlanStore();
  const navigate = useNavigate();
  const planId = usePlanPart((state) => state.plan.id);
  const box = usePlanPart((state) => state.draft.box);
  const appliances = usePlanPart((state) => state.draft.use.appliances);
  const judgements = useJudgements();
  const { habits, setHabits } = use(HabitsContext);
  const { unit, setUnit } = use(UnitContext);
  const { scheme, setScheme } = use(SchemeContext);
  const go = (where: string) => () => navigate(`/plan/${planId}/${where}`);
  const sources = [
    ...box.sun.map((one) => ({ text: one.name, part: `sun:${one.id}` })),
    ...box.vehicle.map((one) => ({ text: one.name, part: `vehicle:${one.id}` })),
    ...box.mains.map((one) => ({ text: one.name, part: `mains:${one.id}` })),
    { text: "Battery", part: "battery" },
    { text: "Temperature and location", part: "warmth" },
    { text: "How sources are joined", part: "joining" },
    ...(box.inverter ? [{ text: "Inverter", part: "inverter" }] : []),
    ...(box.converter ? [{ text: "12 V converter", part: "converter" }] : []),
  ];
  return [
    ...PAGES.map((page, i) => ({
      group: "Go to",
      text: page.text,
      keys: String(i + 1),
      does: go(page.path),
    })),
    { group: "Go to", text: "Today", does: go("today") },
    { group: "Go to", text: "Boxes and trips", does: () => navigate("/") },
    { group: "Go to", text: "Help", does: () => navigate("/help") },
    { group: "Go to", text: "Practise", does: () => navigate("/practise") },
    ...[...TERMS, ...GUIDES].map((topic) => ({
      group: "Help",
      text: topic.title,
      does: () => navigate(`/help#${topic.id}`),
    })),
    { group: "Do", text: "Undo", keys: "Ctrl+Z", does: store.undo },
    { group: "Do", text: "Redo", keys: "Ctrl+Y", does: store.redo },
    {
      group: "Do",
      text: "Save this plan as a file",
      does: () => window.location.assign(`/api/plans/${planId}/file`),
    },
    {
      group: "Do",
      text: "Print the store booklet",
      does: () => window.location.assign(`/api/plans/${planId}/print/booklet.pdf`),
    },
    { group: "Do", text: "Units and habits", does: onSettings },
    { group: "Do", text: "Shortcuts", keys: "?", does: onHelp },
    {
      group: "Show",
      text: scheme === "day" ? "Night scheme, dim red" : "Day scheme",
      keys: "N",
      does: () => setScheme(scheme === "day" ? "night" : "day"),
    },
    {
      group: "Show",
      text: unit === "Ah" ? "Watt-hours" : "Amp-hours",
      keys: "U",
      does: () => setUnit(unit === "Ah" ? "Wh" : "Ah"),
    },
    {
      group: "Show",
      text: habits.temperature === "C" ? "Fahrenheit" : "Celsius",
      does: () => setHabits({ ...habits, temperature: habits.temperature === "C" ? "F" : "C" }),
    },
    ...judgements.flatMap((judgement) =>
      judgement.fix
        ? [
            {
              group: "Mend",
              text: `${judgement.fix.text} (${judgement.code})`,
              does: () => {
                const { fix } = judgement;
                if (fix) store.edit((plan) => withRemedy(plan, fix), fix.text.toLowerCase());
              },
            },
          ]
        : [],
    ),
    ...sources.map(({ text, part }) => ({ group: "Part", text, does: go(`box?part=${part}`) })),
    ...appliances.map((one) => ({
      group: "Appliance",
      text: one.name,
      does: go(`use?open=${one.id}`),
    })),
  ];
}
