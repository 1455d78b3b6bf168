// What stands in one frame, and what may reach the lens: contrast, sudden light, glare, spray; on a table ground and surface.
import { type Brief, isShot } from "../../api/types";
import { Choice, NumberField, Tick } from "../../parts/fields";
import { plainNumber, withUnit } from "../../parts/words";
import type { EditorProps } from "./editors";

type Changes = "usual" | "steady" | "gradual" | "sudden";

export function SceneEditor({ brief, change, instruments, vocabulary }: EditorProps) {
  const subject = brief.subject;
  const usual = instruments ? `${plainNumber(Math.round(instruments.contrast_stops * 10) / 10)}` : "";
  const changes: Changes = brief.light_changes ?? "usual";
  return (
    <div className="grid gap-3">
      <NumberField
        label={`In one frame, from darkest to brightest${usual && brief.contrast_stops == null ? ` (usual here: ${usual})` : ""}`}
        unit="stops"
        value={brief.contrast_stops ?? null}
        onChange={(contrast_stops) => change((b) => ({ ...b, contrast_stops }), "contrast")}
        onClear={() => change((b) => ({ ...b, contrast_stops: null }), "contrast")}
      />
      <Choice<Changes>
        label="Within a take the light"
        value={changes}
        options={[
          { value: "usual", says: "changes as it usually does there" },
          ...vocabulary.options.light_changes.map(({ id, name, hint }) => ({
            value: id as Changes,
            says: name,
            hint: hint || undefined,
          })),
        ]}
        onChange={(said) => change((b) => ({ ...b, light_changes: said === "usual" ? null : said }))}
      />
      <Tick
        says="water, leaves or glass mirror the sky"
        checked={brief.glare}
        onChange={(glare) => change((b) => ({ ...b, glare }))}
      />
      {brief.light.kind !== "water" && (
        <Tick
          says="spray, surf or rain reach the camera"
          checked={brief.wet}
          onChange={(wet) => change((b) => ({ ...b, wet }))}
        />
      )}
      {isShot(brief, "on_table", vocabulary) && (
        <>
          <Tick
            says="it stands on black"
            checked={subject.ground === "black"}
            onChange={(black) =>
              change((b) => ({ ...b, subject: { ...b.subject, ground: black ? "black" : "usual" } }))
            }
          />
          <Tick
            says="it mirrors its lamps"
            checked={subject.surface === "shiny"}
            onChange={(shiny) =>
              change((b) => ({ ...b, subject: { ...b.subject, surface: shiny ? "shiny" : "matt" } }))
            }
          />
        </>
      )}
    </div>
  );
}

/** What is said of the frame, in words; empty where it is as usual. */
/** changes: how the light changes, in words; empty where nothing is said. */
export function sceneWords(brief: Brief, changes: string): string {
  const said = [
    brief.contrast_stops != null ? `${withUnit(brief.contrast_stops, "stops")} in one frame` : "",
    changes,
    brief.glare ? "glare" : "",
    brief.wet ? "spray" : "",
    brief.subject.ground === "black" ? "on black" : "",
    brief.subject.surface === "shiny" ? "mirroring" : "",
  ];
  return said.filter((part) => part !== "").join(", ");
}
