import { Suspense, use, useState } from "react";
import { Link } from "react-router";
import { SchemeContext, UnitContext } from "../../plan/context";
import { part } from "../../shell/part";
import { Button } from "../../ui/Button";
import { Choice } from "../../ui/fields/Choice";

const SettingsDialog = part(() => import("../../shell/dialogs/SettingsDialog"));

/** The rim above the home page. */
export function StartHeader() {
  const { unit, setUnit } = use(UnitContext);
  const { scheme, setScheme } = use(SchemeContext);
  const [shown, setShown] = useState(false);
  return (
    <header className="border-b-4 border-sun bg-rim text-on-rim print:hidden">
      <div className="mx-auto flex max-w-[1240px] flex-wrap items-center gap-3 px-4 py-2 sm:px-6">
        <Link to="/" className="flex items-center gap-2 font-head text-xl font-bold">
          <img src="/kettle.svg" alt="" className="size-8" />
          Odd Kettle
        </Link>
        <a href="/#boxes" className="ml-2 hidden underline sm:inline">
          Boxes and trips
        </a>
        <div className="ml-auto flex flex-wrap items-center justify-end gap-1.5 sm:gap-2">
          <Choice
            label="Unit"
            oneLine
            value={unit}
            options={[
              { value: "Ah", text: "Ah" },
              { value: "Wh", text: "Wh" },
            ]}
            onChange={setUnit}
          />
          <Button onClick={() => setScheme(scheme === "day" ? "night" : "day")}>
            {scheme === "day" ? "Night" : "Day"}
          </Button>
          <Button onClick={() => setShown(true)}>Habits</Button>
          <Link className="key" to="/practise">
            Practise
          </Link>
          <Link className="key" to="/help">
            Help
          </Link>
        </div>
      </div>
      <Suspense fallback={null}>
        {shown && <SettingsDialog open onOpenChange={setShown} />}
      </Suspense>
    </header>
  );
}
