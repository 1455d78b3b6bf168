// A button that asks for a file. The field itself is there for the keyboard and for screen readers.
import { useRef } from "react";

type Props = {
  label: string;
  accept: string;
  says: string;
  busy: boolean;
  onFile: (file: File) => void;
};

export function FileButton({ label, accept, says, busy, onFile }: Props) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        accept={accept}
        className="sr-only"
        aria-label={label}
        tabIndex={-1}
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = "";
          if (file) onFile(file);
        }}
      />
      <button type="button" className="plain" disabled={busy} onClick={() => input.current?.click()}>
        {busy ? "Reading" : says}
      </button>
    </>
  );
}
