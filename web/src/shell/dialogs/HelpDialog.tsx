import { Dialog } from "../../ui/Dialog";
import { SHORTCUTS } from "./shortcuts";

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
}

/** All shortcuts in one sheet. */
export default function HelpDialog({ open, onOpenChange }: Props) {
  return (
    <Dialog
      title="Shortcuts"
      text="Everything that is dragged can be moved by keys too: go to it with Tab, then the arrows."
      open={open}
      onOpenChange={onOpenChange}
    >
      <div className="grid gap-4 sm:grid-cols-2">
        {SHORTCUTS.map((group) => (
          <section key={group.where}>
            <h3 className="mb-1">{group.where}</h3>
            <dl className="text-sm">
              {group.keys.map(([keys, does]) => (
                <div key={keys} className="flex gap-3 border-b border-line/70 py-0.5">
                  <dt className="w-32 shrink-0 font-semibold">{keys}</dt>
                  <dd>{does}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
    </Dialog>
  );
}
