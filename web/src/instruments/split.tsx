// Two frames one over the other with a line between them that can be dragged and moved by keys, or side by side.
import { type PointerEvent, useRef } from "react";
import { Framed, Picture } from "./picture";

export type Seen = { src: string | null; says: string; old: boolean };
type Props = {
  shape: number;
  left: Seen;
  right: Seen | null;
  beside: boolean;
  at: number;
  onMove: (at: number) => void;
  coloured: boolean;
  /** Where the loupe is, shares from the middle, and how much of the frame it shows. */
  loupe: [number, number];
  loupeWide: number;
  onLoupe: (at: [number, number]) => void;
  words: string;
};

const STEP = 0.02;
const BIG = 0.1;

export function Split(props: Props) {
  const { shape, left, right, beside, at, onMove, coloured, words } = props;
  const box = useRef<HTMLDivElement>(null);
  if (beside && right)
    return (
      <div className="grid grid-cols-2 gap-2 max-sm:grid-cols-1">
        {[left, right].map((seen) => (
          <Framed key={seen.says} shape={shape}>
            <Picture src={seen.src} says={seen.says} coloured={coloured} old={seen.old} />
            <Loupe {...props} />
          </Framed>
        ))}
      </div>
    );
  const drag = (event: PointerEvent) => {
    const frame = box.current?.getBoundingClientRect();
    if (frame) onMove(clamp((event.clientX - frame.left) / frame.width, 0, 1));
  };
  return (
    <div ref={box}>
      <Framed shape={shape}>
        <Picture src={left.src} says={left.says} coloured={coloured} old={left.old} />
        {right && (
          <span className="absolute inset-0" style={{ clipPath: `inset(0 0 0 ${100 * at}%)` }}>
            <Picture src={right.src} says={right.says} coloured={coloured} old={right.old} />
          </span>
        )}
        <Loupe {...props} />
        {right && (
          <div
            id="look-line"
            role="slider"
            tabIndex={0}
            aria-label="Line between the two frames"
            aria-valuemin={0}
            aria-valuemax={100}
            aria-valuenow={Math.round(100 * at)}
            aria-valuetext={`${Math.round(100 * at)} % left, ${Math.round(100 - 100 * at)} % right. ${words}`}
            className="absolute inset-y-0 -ml-[22px] grid w-[44px] cursor-ew-resize touch-none place-items-center"
            style={{ left: `${100 * at}%` }}
            onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
            onPointerMove={(event) => {
              if (event.currentTarget.hasPointerCapture(event.pointerId)) drag(event);
            }}
            onKeyDown={(event) => {
              const step = event.shiftKey ? BIG : STEP;
              const to: Record<string, number> = {
                ArrowLeft: at - step,
                ArrowDown: at - step,
                ArrowRight: at + step,
                ArrowUp: at + step,
                Home: 0,
                End: 1,
              };
              const next = to[event.key];
              if (next === undefined) return;
              event.preventDefault();
              onMove(clamp(next, 0, 1));
            }}
          >
            <span className="absolute inset-y-0 w-[4px] border-x border-[#000] bg-[#fff]" data-line />
            <span
              aria-hidden="true"
              data-line
              className="z-10 grid size-7 place-content-center rounded-full border-2 border-[#000] bg-[#fff] text-body text-[#000]"
            >
              ↔
            </span>
          </div>
        )}
      </Framed>
    </div>
  );
}

/** What the loupe shows; it is dragged, or moved by the arrow keys. */
function Loupe({ shape, loupe, loupeWide, onLoupe }: Props) {
  const wide = Math.min(1, loupeWide);
  const high = Math.min(1, (loupeWide * shape * 9) / 16);
  const held = ([x, y]: [number, number]): [number, number] => [
    clamp(x, -(1 - wide) / 2, (1 - wide) / 2),
    clamp(y, -(1 - high) / 2, (1 - high) / 2),
  ];
  return (
    <button
      type="button"
      data-loupe
      aria-label={`Loupe, ${Math.round(100 * (loupe[0] + 0.5))} % across and ${Math.round(100 * (loupe[1] + 0.5))} % down; arrow keys move it`}
      className="absolute cursor-move touch-none border-2 border-[#fff] ring-1 ring-[#000]"
      style={{
        left: `${100 * (0.5 + loupe[0] - wide / 2)}%`,
        top: `${100 * (0.5 + loupe[1] - high / 2)}%`,
        width: `${100 * wide}%`,
        height: `${100 * high}%`,
      }}
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={(event) => {
        const frame = event.currentTarget.parentElement?.getBoundingClientRect();
        if (!frame || !event.currentTarget.hasPointerCapture(event.pointerId)) return;
        onLoupe(
          held([
            (event.clientX - frame.left) / frame.width - 0.5,
            (event.clientY - frame.top) / frame.height - 0.5,
          ]),
        );
      }}
      onKeyDown={(event) => {
        const step = event.shiftKey ? BIG : STEP;
        const by: Record<string, [number, number]> = {
          ArrowLeft: [-step, 0],
          ArrowRight: [step, 0],
          ArrowUp: [0, -step],
          ArrowDown: [0, step],
        };
        const move = by[event.key];
        if (!move) return;
        event.preventDefault();
        onLoupe(held([loupe[0] + move[0], loupe[1] + move[1]]));
      }}
    />
  );
}

function clamp(value: number, low: number, high: number): number {
  return Math.max(low, Math.min(high, value));
}
