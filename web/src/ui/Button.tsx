import type { ComponentProps } from "react";

const LOOKS = { key: "key", main: "key key-on", link: "underline", bare: "" };

/** How a button looks: a key, the one that leads on, words in a line, or as its class says. */
export type ButtonLook = keyof typeof LOOKS;

interface Props extends ComponentProps<"button"> {
  look?: ButtonLook;
}

/** The one button: it does something on this page and never sends a form unless it is told to. */
export function Button({ look = "key", className = "", type = "button", ...rest }: Props) {
  return (
    <button
      {...rest}
      type={type}
      className={[LOOKS[look], className].filter(Boolean).join(" ") || undefined}
    />
  );
}
