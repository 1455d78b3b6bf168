// Where clips come from, and how far measuring is.
import { useMutation, useQuery } from "@tanstack/react-query";
import { type DragEvent, useState } from "react";
import { changed } from "../../api/keys";
import { type Clips, foldersQuery, rushesApi } from "../../api/rushes";
import { FileButton } from "../../parts/file-button";
import { Panel } from "../../parts/panel";

const KINDS: Record<string, string> = {
  start: "named at the start",
  named: "named here",
  drops: "handed over",
};
const CLIPS = ".mp4,.mov,.m4v,.mkv,.webm,.avi,.ts,.mts,.m2ts,.3gp,video/*";

type Props = { counts: Clips["counts"]; open: boolean; onOpen: (open: boolean) => void };

export function Folders({ counts, open, onOpen }: Props) {
  const [over, setOver] = useState(false);
  const handed = useMutation({
    mutationFn: async (files: File[]) => {
      const refused: string[] = [];
      for (const file of files)
        await rushesApi.drop(file).catch((error: Error) => refused.push(`${file.name}: ${error.message}`));
      if (refused.length > 0) throw new Error(refused.join(" "));
    },
    onSettled: () => changed.rushes(),
  });
  const stopped = useMutation({ mutationFn: () => rushesApi.cancel(), onSettled: () => changed.rushes() });
  const resumed = useMutation({ mutationFn: () => rushesApi.resume(), onSettled: () => changed.rushes() });
  const all = counts.waiting + counts.measuring + counts.done + counts.failed + counts.cancelled;
  const soon = counts.waiting + counts.measuring;
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    const files = [...event.dataTransfer.files];
    if (files.length > 0) handed.mutate(files);
  };
  return (
    <section
      aria-label="Where clips come from"
      className={`grid gap-2 border border-dashed p-2 text-small ${over ? "border-ink bg-second" : "border-rule"}`}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <p role="status">
        {soon > 0 ? (
          <>
            <progress
              className="tide mr-2 w-24 align-middle"
              value={all - soon}
              max={all}
              aria-label="Clips measured"
            />
            measuring {all - soon + 1} of {all}{" "}
            <button type="button" className="underline" onClick={() => stopped.mutate()}>
              stop
            </button>
          </>
        ) : all > 0 ? (
          <>
            {counts.done} measured
            {counts.failed > 0 && `, ${counts.failed} not read`}
            {counts.cancelled > 0 && (
              <>
                , {counts.cancelled} stopped{" "}
                <button type="button" className="underline" onClick={() => resumed.mutate()}>
                  go on
                </button>
              </>
            )}
          </>
        ) : (
          "Drop clips here, or name a folder."
        )}
      </p>
      <div className="flex flex-wrap items-center gap-2">
        <Panel
          label="Folders"
          trigger={{ className: "plain" }}
          says="Folders"
          open={open}
          onOpen={onOpen}
          wide="w-[440px] p-4"
        >
          <Named />
        </Panel>
        <FileButton
          label="Clips"
          accept={CLIPS}
          says="Add clips"
          busy={handed.isPending}
          onFiles={(files) => handed.mutate(files)}
        />
      </div>
      {(handed.error ?? stopped.error ?? resumed.error) && (
        <p role="alert" className="text-note">
          {(handed.error ?? stopped.error ?? resumed.error)?.message}
        </p>
      )}
    </section>
  );
}

function Named() {
  const folders = useQuery(foldersQuery);
  const [path, setPath] = useState("");
  const named = useMutation({
    mutationFn: (typed: string) => rushesApi.name(typed),
    onSuccess: () => setPath(""),
    onSettled: () => changed.rushes(),
  });
  const looked = useMutation({ mutationFn: rushesApi.look, onSettled: () => changed.rushes() });
  const forgot = useMutation({ mutationFn: rushesApi.forget, onSettled: () => changed.rushes() });
  const [asked, setAsked] = useState<string | null>(null);
  const error = named.error ?? looked.error ?? forgot.error;
  return (
    <div className="grid gap-3">
      <ul>
        {folders.data?.items.map((folder) => (
          <li key={folder.id} className="border-hair border-b py-2">
            <span className="break-all">{folder.kind === "drops" ? "Clips handed over" : folder.path}</span>
            <span className="flex flex-wrap items-center gap-3 text-fine text-muted">
              {folder.clips} {folder.clips === 1 ? "clip" : "clips"}, {KINDS[folder.kind] ?? folder.kind}
              {folder.problem && <span className="text-note">{folder.problem}</span>}
              {folder.kind !== "drops" && (
                <>
                  <button type="button" className="underline" onClick={() => looked.mutate(folder.id)}>
                    Scan for new clips
                  </button>
                  {asked === folder.id ? (
                    <button
                      type="button"
                      className="font-bold text-note underline"
                      onClick={() => forgot.mutate(folder.id)}
                    >
                      take off with its measures
                    </button>
                  ) : (
                    <button type="button" className="underline" onClick={() => setAsked(folder.id)}>
                      take off
                    </button>
                  )}
                </>
              )}
            </span>
          </li>
        ))}
      </ul>
      <form
        className="grid gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (path.trim()) named.mutate(path.trim());
        }}
      >
        <label className="grid gap-1">
          A folder of this machine
          <input
            className="field"
            value={path}
            placeholder="/media/card/clips"
            onChange={(event) => setPath(event.target.value)}
          />
        </label>
        <button type="submit" className="plain justify-self-start" disabled={named.isPending || !path.trim()}>
          {named.isPending ? "Looking" : "Measure its clips"}
        </button>
      </form>
      {error && (
        <p role="alert" className="text-note">
          {error.message}
        </p>
      )}
      <p className="text-fine text-muted">
        Only measures and small frames are kept, never the footage. The folder may go away and come back.
      </p>
    </div>
  );
}
