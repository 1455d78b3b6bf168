// Which scene stands before the camera: one of ours, or a still of one's own.
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { changed } from "../../api/keys";
import { lookApi, type SceneListed, scenesQuery } from "../../api/look";
import { FileButton } from "../../parts/file-button";
import { Panel } from "../../parts/panel";

type Props = { scene: string | null; kind: string; choose: (scene: string | null) => void };

export function SceneChoice({ scene, kind, choose }: Props) {
  const [open, setOpen] = useState(false);
  const scenes = useQuery(scenesQuery);
  const items = scenes.data?.items ?? [];
  const current = items.find((one) => one.id === scene);
  const fitting = [...items].sort((a, b) => fit(b, kind) - fit(a, kind));
  const [distance, setDistance] = useState("5");
  const add = useMutation({
    mutationFn: (file: File) => lookApi.addStill(file, Number(distance.replace(",", "."))),
    onSuccess: (still) => {
      void changed.scenes();
      choose(still.id);
    },
  });
  const discard = useMutation({
    mutationFn: lookApi.discardStill,
    onSuccess: (_, id) => {
      void changed.scenes();
      if (id === scene) choose(null);
    },
  });
  const metres = Number(distance.replace(",", "."));
  return (
    <Panel
      label="Scene"
      trigger={{ className: "token", "aria-label": `Scene: ${current?.name ?? "not known yet"}` }}
      says={current?.name.toLowerCase() ?? "a scene"}
      open={open}
      onOpen={setOpen}
    >
      <ul>
        {fitting.map((one) => (
          <li key={one.id} className="flex items-start border-hair border-b">
            <button
              type="button"
              aria-pressed={one.id === scene}
              className="min-h-[30px] flex-1 py-[6px] text-left hover:bg-second"
              onClick={() => {
                choose(one.id);
                setOpen(false);
              }}
            >
              <span className={one.id === scene ? "font-bold" : ""}>{one.name}</span>
              <span className="block text-fine text-muted">{one.shows}</span>
            </button>
            {one.own && (
              <button
                type="button"
                className="py-[6px] pl-3 text-fine text-muted underline"
                aria-label={`Discard ${one.name}`}
                onClick={() => discard.mutate(one.id)}
              >
                discard
              </button>
            )}
          </li>
        ))}
      </ul>
      <div className="grid gap-2 pt-3">
        <p className="text-small text-muted">
          A still of your own, JPEG or PNG. It is taken as what a screen shows; say how far its subject is.
        </p>
        <div className="flex items-center gap-3">
          <label className="flex items-center gap-2 text-small">
            distance
            <input
              className="field w-[70px] text-right"
              inputMode="decimal"
              value={distance}
              aria-invalid={!(metres > 0)}
              onChange={(event) => setDistance(event.target.value)}
            />
            m
          </label>
          <FileButton
            label="A still of your own"
            accept="image/jpeg,image/png"
            says="Choose a still"
            busy={add.isPending || !(metres > 0)}
            onFile={(file) => add.mutate(file)}
          />
        </div>
        {!(metres > 0) && (
          <p role="alert" className="text-small text-note">
            Type a distance in metres, such as 5.
          </p>
        )}
        {(add.error ?? discard.error) && (
          <p role="alert" className="text-small text-note">
            {(add.error ?? discard.error)?.message}
          </p>
        )}
      </div>
    </Panel>
  );
}

function fit(scene: SceneListed, kind: string): number {
  return scene.own ? 2 : scene.kinds.includes(kind) ? 1 : 0;
}
