import { useEffect, useId, useState } from "react";
import { answer, client } from "../api/client";
import { upload } from "../api/upload";
import { FileKey } from "../ui/FileKey";
import { usePhotographs } from "./useLabel";

interface Props {
  text: string;
  onText: (text: string) => void;
}

const MOST = 6000;

/** The text of a label: typed, pasted, or read from a photograph that stays beside it. */
export function LabelTextField({ text, onText }: Props) {
  const id = useId();
  const readable = usePhotographs();
  const [picture, setPicture] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => () => URL.revokeObjectURL(picture ?? ""), [picture]);

  async function read(file: File) {
    setPicture(URL.createObjectURL(file));
    setBusy(true);
    setProblem(null);
    try {
      const sent = await upload(file, "application/octet-stream");
      const got = await answer(client.POST("/api/labels/photo", sent));
      onText(got.text);
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error));
    } finally {
      setBusy(false);
    }
  }
  return (
    <div className="flex flex-col gap-2">
      <label htmlFor={id} className="text-sm text-ash">
        What stands on its label, in the shop or in its data sheet
      </label>
      <div className={picture ? "grid gap-2 sm:grid-cols-2" : ""}>
        {picture && (
          <img
            src={picture}
            alt="The photograph of the label"
            className="max-h-56 w-full rounded border border-line object-contain"
          />
        )}
        <textarea
          id={id}
          className="field min-h-24 w-full"
          rows={5}
          maxLength={MOST}
          placeholder="Paste it here, all of it"
          value={text}
          onChange={(event) => onText(event.target.value)}
        />
      </div>
      {readable ? (
        <FileKey
          text={busy ? "Reading the picture…" : "Read a photograph"}
          accept="image/png,image/jpeg,image/webp"
          onFile={(file) => void read(file)}
        />
      ) : (
        <p className="text-sm text-ash">
          Photographs are read too, once Debian’s package tesseract-ocr is installed where Odd
          Kettle runs.
        </p>
      )}
      {problem && (
        <p role="alert" className="text-sm text-danger">
          {problem} What was typed is still here.
        </p>
      )}
    </div>
  );
}
