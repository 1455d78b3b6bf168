// Whatever had the focus before a dialog gets it back.
import { useRef } from "react";

/** Give both to the dialog's content. */
export function useReturnFocus() {
  const before = useRef<HTMLElement | null>(null);
  return {
    onOpenAutoFocus: () => {
      before.current = document.activeElement instanceof HTMLElement ? document.activeElement : null;
    },
    onCloseAutoFocus: (event: Event) => {
      if (!before.current?.isConnected || before.current === document.body) return;
      event.preventDefault();
      before.current.focus();
    },
  };
}
