// What a framing does: how the camera moves, and which framings it joins.
import { useState } from "react";
import type { Framing } from "../../../api/story";
import { NumberField, SelectField } from "../../../parts/fields";

type PutProps = {
  framing: Framing;
  names: Record<string, string>;
  put: (change: Partial<Framing>, says: string) => void;
};

const TURNS = ["pan", "tilt"];

export function Movement({ framing, names, put }: PutProps) {
  const now = framing.movement ?? null;
  const turning = now !== null && TURNS.includes(now.kind);
  const first = (kind: string) =>
    TURNS.includes(kind)
      ? { kind, angle_deg: now?.angle_deg ?? 10, path_m: null, nearest_m: null }
      : { kind, path_m: now?.path_m ?? 1, angle_deg: null, nearest_m: now?.nearest_m ?? null };
  return (
    <div className="grid gap-3">
      <SelectField
        label="Movement of the camera"
        value={now?.kind ?? ""}
        options={[["", "it stands"], ...Object.entries(names)]}
        onChange={(kind) =>
          put({ movement: (kind ? first(kind) : null) as Framing["movement"] }, "the movement")
        }
      />
      {now && (
        <div className="flex gap-3">
          {turning ? (
            <NumberField
              late
              label="Turns by"
              unit="°"
              value={now.angle_deg ?? null}
              onChange={(angle_deg) =>
                angle_deg > 0 && put({ movement: { ...now, angle_deg } }, "how far it turns")
              }
            />
          ) : (
            <NumberField
              late
              label="Goes"
              unit="m"
              value={now.path_m ?? null}
              onChange={(path_m) => path_m > 0 && put({ movement: { ...now, path_m } }, "how far it goes")}
            />
          )}
          {["reveal", "follow", "fly_over", "steps"].includes(now.kind) && (
            <NumberField
              late
              label="Nearest thing"
              unit="m"
              value={now.nearest_m ?? null}
              onChange={(nearest_m) =>
                nearest_m > 0 && put({ movement: { ...now, nearest_m } }, "the nearest thing")
              }
              onClear={() =>
                now.nearest_m != null && put({ movement: { ...now, nearest_m: null } }, "the nearest thing")
              }
            />
          )}
        </div>
      )}
    </div>
  );
}

export function Joins({ framing, names, put }: PutProps) {
  const [tag, setTag] = useState("");
  const [by, setBy] = useState("shape");
  const joins = framing.joins ?? [];
  return (
    <div>
      <p className="text-fine text-muted">Cuts to another framing with the same tag</p>
      {joins.map((join) => (
        <p key={join.tag + join.by} className="flex justify-between gap-2 text-small">
          {names[join.by]}: {join.tag}
          <button
            type="button"
            className="underline"
            onClick={() => put({ joins: joins.filter((one) => one !== join) }, "the tag")}
          >
            take off
          </button>
        </p>
      ))}
      <div className="flex gap-2">
        <select
          aria-label="Alike in"
          className="field"
          value={by}
          onChange={(event) => setBy(event.target.value)}
        >
          {Object.entries(names).map(([id, says]) => (
            <option key={id} value={id}>
              {says}
            </option>
          ))}
        </select>
        <input
          aria-label="Tag"
          className="field"
          placeholder="rings"
          maxLength={80}
          value={tag}
          onChange={(event) => setTag(event.target.value)}
        />
        <button
          type="button"
          className="plain"
          disabled={!tag.trim()}
          onClick={() => {
            put({ joins: [...joins, { tag: tag.trim(), by: by as "shape" }] }, "the tag");
            setTag("");
          }}
        >
          Tag
        </button>
      </div>
    </div>
  );
}
