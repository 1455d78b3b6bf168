// A drawn picture. On the red ground it stays red, unless its colours are asked for.
import type { CSSProperties, ReactNode } from "react";

type Props = {
  src: string | null;
  says: string;
  coloured?: boolean;
  style?: CSSProperties;
  old?: boolean;
  sharp?: boolean;
};

export function Picture({ src, says, coloured, style, old, sharp }: Props) {
  return (
    <span className="look-picture" data-coloured={coloured || undefined} style={style}>
      {src ? (
        <img
          src={src}
          alt={says}
          draggable={false}
          className={`block h-full w-full ${old ? "opacity-70" : ""}`}
          style={sharp ? { imageRendering: "pixelated" } : undefined}
        />
      ) : (
        <span className="block h-full w-full bg-second" role="img" aria-label={says} />
      )}
    </span>
  );
}

/** Keeps the shape of the delivered frame. */
export function Framed({ shape, children }: { shape: number; children: ReactNode }) {
  return (
    <div className="relative w-full overflow-hidden" style={{ aspectRatio: String(shape) }}>
      {children}
    </div>
  );
}
