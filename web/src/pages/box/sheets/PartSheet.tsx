import type { Box } from "../../../api/client";
import { usePlanState } from "../../../plan/context";
import { lookOf } from "../../../sources";
import type { PartKey } from "../parts";
import { BatterySheet } from "./battery/BatterySheet";
import { WarmthSheet } from "./battery/WarmthSheet";
import { FieldsSheet } from "./FieldsSheet";
import { MainsSheet } from "./MainsSheet";
import { ConverterSheet, InverterSheet, JoiningSheet } from "./OtherSheets";
import { SunSheet } from "./SunSheet";
import { UnitSheet } from "./UnitSheet";
import { VehicleSheet } from "./VehicleSheet";

/** The sheet of one part. */
export function PartSheet({ part }: { part: PartKey }) {
  const { draft } = usePlanState();
  const { box } = draft;
  const id = part.slice(part.indexOf(":") + 1);
  const sun = part.startsWith("sun:") && box.sun.find((other) => other.id === id);
  if (sun) return <SunSheet sun={sun} />;
  const vehicle = part.startsWith("vehicle:") && box.vehicle.find((other) => other.id === id);
  if (vehicle) return <VehicleSheet vehicle={vehicle} />;
  const mains = part.startsWith("mains:") && box.mains.find((other) => other.id === id);
  if (mains) return <MainsSheet mains={mains} />;
  const look = lookOf(part.slice(0, part.indexOf(":")));
  if (look?.fields) return <FieldsSheet look={look} fields={look.fields} id={id} />;
  switch (part) {
    case "second":
      return <BatterySheet second />;
    case "warmth":
      return <WarmthSheet />;
    case "unit":
      return <UnitSheet />;
    case "joining":
      return <JoiningSheet />;
    case "inverter":
      return <InverterSheet />;
    case "converter":
      return <ConverterSheet />;
    default:
      return <BatterySheet />;
  }
}

/** What the cautions beside a part are about. */
export function cautionsAbout(box: Box, part: PartKey): string[] {
  const [group = ""] = part.split(":");
  switch (group) {
    case "battery":
      return ["battery", box.battery.chemistry, "heavy"];
    case "second":
      return ["second", box.second?.battery.chemistry ?? ""];
    case "warmth":
      return box.heater ? ["heater"] : [];
    case "joining":
      return ["vehicle"];
    default:
      return [group];
  }
}
