// A button that asks for a file, or for several. The field itself is there for the keyboard and for screen readers.
import { useRef } from "react";

type Props = {
  label: string;
  accept: string;
  says: string;
  busy: boolean;
  strong?: boolean;
} & ({ onFile: (file: File) => void } | { onFiles: (files: File[]) => void });

export function FileButton({ label, accept, says, busy, strong, ...on }: Props) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        multiple={"onFiles" in on}
        accept={accept}
        className="sr-only"
        aria-label={label}
        tabIndex={-1}
        onChange={(event) => {
          const files = [...(event.target.files ?? [])];
          event.target.value = "";
          const [first] = files;
          if (!first) return;
          if ("onFiles" in on) on.onFiles(files);
          else on.onFile(first);
        }}
      />
      <button
        type="button"
        className={strong ? "bold-plain disabled:opacity-45" : "plain"}
        disabled={busy}
        onClick={() => input.current?.click()}
      >
        {busy ? "Reading" : says}
      </button>
    </>
  );
}
