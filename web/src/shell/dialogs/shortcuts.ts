/** Every shortcut, in one place: the help sheet is made from this list. */
export const SHORTCUTS: readonly { where: string; keys: readonly [string, string][] }[] = [
  {
    where: "Everywhere",
    keys: [
      ["Ctrl+Z", "undo"],
      ["Ctrl+Y, Ctrl+Shift+Z", "redo"],
      ["Ctrl+K", "command menu"],
      ["?", "this sheet"],
      ["1 2 3 4 5 6", "Trip, Use, Box, Improve, Log, Build"],
      ["U", "Ah or Wh"],
      ["N", "night scheme"],
      ["J", "checks on your setup"],
      ["Esc", "close a sheet; in a field, put the old figure back"],
    ],
  },
  {
    where: "Trip",
    keys: [
      ["D H P", "put a drive, a hook-up, a panel at the cursor"],
      ["← →", "move the block or the cursor by 5 min; with Ctrl by an hour"],
      ["Shift+← →", "stretch the block"],
      ["↑ ↓", "move the block or the cursor by a day; on the reserve line, one point"],
      ["Delete", "remove the block"],
    ],
  },
  {
    where: "Use",
    keys: [
      ["← →", "move an appliance’s hours by 5 min; with Ctrl by an hour"],
      ["Shift+← →", "stretch them"],
      ["↑ ↓ on ⠿", "move a lane"],
      ["← → on a name in “first to go”", "let it go earlier or later"],
    ],
  },
  {
    where: "Box",
    keys: [
      ["Enter on a part", "open its sheet"],
      ["0 on a part", "switch it off or on"],
      ["← → on the level strip", "move the moment; with Ctrl by a day"],
    ],
  },
  {
    where: "Build",
    keys: [
      ["Enter on a wire", "open its circuit"],
      ["← → ↑ ↓ on a part or a fitting", "move it by 5 mm; with Ctrl by 1 mm"],
      ["T on a part", "turn it"],
    ],
  },
];
