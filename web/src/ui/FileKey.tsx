interface Props {
  text: string;
  /** Endings of the files to choose among, like .csv,.txt. */
  accept: string;
  strong?: boolean;
  onFile: (file: File) => void;
}

/** A key that asks for a file; the same one can be chosen twice. */
export function FileKey({ text, accept, strong, onFile }: Props) {
  return (
    <label className={`key cursor-pointer focus-within:outline-2 ${strong ? "key-on" : ""}`}>
      {text}
      <input
        type="file"
        className="sr-only"
        accept={accept}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) onFile(file);
          event.target.value = "";
        }}
      />
    </label>
  );
}
