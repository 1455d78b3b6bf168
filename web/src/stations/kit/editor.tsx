// Writing a sheet: from the box, from the manual's mode table, from clips; the rest by group, estimated where nothing is known.

import { useMutation, useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { Problem } from "../../api/http";
import { changed, keys } from "../../api/keys";
import { kitApi } from "../../api/kit";
import { fieldsQuery, sheetsApi } from "../../api/sheets";
import type { Completed, DraftOut, FieldGroup, KitView, ModeMap, Rough } from "../../api/types";
import { differing, type Fields, flat, nested } from "../../changes/fields";
import { Conflict } from "../../changes/met";
import { recall, remember } from "../../changes/storage";
import { useChanges } from "../../changes/use-changes";
import { type Asked, Films, LossWords, ModeMapPicture } from "../../instruments/mode-map";
import { HeadTools } from "../../parts/head-tools";
import { useShortcuts } from "../../parts/keyboard";
import { Loading } from "../../parts/loading";
import { Trouble } from "../../parts/trouble";
import { Begin } from "./begin";
import { EMPTY, modeCount } from "./doc";
import { GroupForm } from "./group-form";
import { ModeList } from "./mode-list";

type Start = {
  camera_id: string | null;
  edition: number | null;
  /** Null where nothing of it is kept by the service yet. */
  revision: number | null;
  rough: Rough;
};

const CALM_MS = 300;
const SAVE_MS = 700;
const RETRY_MS = 3000;

export default function Editor({ kit }: { kit: KitView }) {
  const { draftId = "" } = useParams();
  const [query] = useSearchParams();
  const of = query.get("of");
  const fields = useQuery(fieldsQuery);
  const start = useQuery({
    queryKey: keys.draft(draftId, of),
    queryFn: () => begin(draftId, of),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
    refetchOnWindowFocus: false,
  });
  const error = start.error ?? fields.error;
  if (start.data && fields.data)
    return (
      <SheetEditor
        key={draftId}
        draftId={draftId}
        start={start.data}
        groups={fields.data.items}
        inchTypes={Object.keys(fields.data.inch_types)}
        kit={kit}
      />
    );
  if (error)
    return (
      <Trouble
        error={error}
        retry={() => {
          start.refetch();
          fields.refetch();
        }}
      />
    );
  return <Loading what="Loading the camera’s sheet." />;
}

/** The draft as it is kept, or the camera's sheet, or nothing. */
async function begin(draftId: string, of: string | null): Promise<Start> {
  const draft = (await sheetsApi.drafts()).items.find(({ id }) => id === draftId);
  const start = draft
    ? {
        camera_id: draft.camera_id ?? null,
        edition: draft.edition ?? null,
        revision: draft.revision,
        rough: draft.rough as unknown as Rough,
      }
    : await beginAnew(of);
  // As a version before kept what was typed: all of it, in place of what changed.
  const older = recall<Start>(`sheet.${draftId}`);
  if (older?.rough) {
    const change = differing(flat(start.rough), flat(older.rough));
    remember(`sheet.${draftId}`, { revision: older.revision ?? 0, change });
  }
  return start;
}

async function beginAnew(of: string | null): Promise<Start> {
  if (of === null) return { camera_id: null, edition: null, revision: null, rough: EMPTY };
  const camera = await sheetsApi.rough(of);
  const rough = camera.rough as unknown as Rough;
  return { camera_id: of, edition: camera.edition ?? 1, revision: null, rough };
}

type Props = {
  draftId: string;
  start: Start;
  groups: FieldGroup[];
  inchTypes: string[];
  kit: KitView;
};

function SheetEditor({ draftId, start, groups, inchTypes, kit }: Props) {
  const { engine, rough, change, says, grave, drop } = useDraft(draftId, start);
  const { history } = engine;
  const settle = () => history.settle();
  const { done, map, problem } = useCompleted(rough);
  const [page, setPage] = useState("begin");
  const [asked, setAsked] = useState<Asked>(null);
  const [onTop, setOnTop] = useState<number | null>(null);
  const [leaving, setLeaving] = useState(false);
  const navigate = useNavigate();
  const name = String(rough.sheet.name ?? "").trim();
  useEffect(() => {
    document.title = `${name || "New sheet"} · Kit · Steady Tide`;
  }, [name]);
  useShortcuts("kit", (id) => {
    if (id === "sheet-undo") engine.undo();
    else if (id === "sheet-redo") engine.redo();
    else if (id === "ask-no-more") setAsked(null);
    else return false;
    return true;
  });
  const keep = useMutation({
    mutationFn: (asNew: boolean) => {
      if (start.camera_id !== null && !asNew)
        return sheetsApi.changeCamera(start.camera_id, rough, onTop ?? start.edition ?? 1);
      const { id: _, ...rest } = rough.sheet;
      return sheetsApi.addCamera(start.camera_id !== null ? { ...rough, sheet: rest } : rough);
    },
    onSuccess: async (sheet) => {
      await drop();
      changed.kit();
      navigate(`/kit/cameras/${sheet.id}`);
    },
    onError: async (error, asNew) => {
      // Somebody kept a newer edition meanwhile: the next try may go on top of it, if the person says so.
      if (error instanceof Problem && error.status === 409 && start.camera_id !== null && !asNew)
        setOnTop((await kitApi.sheet(start.camera_id)).edition ?? null);
    },
  });
  const whole = done?.sheet ?? null;
  const faults = done?.faults ?? [];
  const shown = groups.find((group) => group.id === page);
  const estimates = done?.estimates ?? [];
  const inGroup = (group: FieldGroup) =>
    estimates.filter(({ field }) =>
      group.list
        ? field.startsWith(`${group.list}[`)
        : group.fields.some(({ path }) => field === path || field.startsWith(`${path}.`)),
    ).length;
  const wrongIn = (group: FieldGroup) =>
    faults.some(
      ([where, what]) =>
        !isWanting(what) &&
        (group.list
          ? where === group.list || where.startsWith(`${group.list}[`)
          : group.fields.some(({ path }) => where === path)),
    );
  const refused = keep.error instanceof Problem ? keep.error : null;
  return (
    <main className="grid flex-1 grid-cols-[178px_minmax(0,1fr)_408px] max-lg:grid-cols-[178px_minmax(0,1fr)] max-md:grid-cols-1">
      <HeadTools
        says={says}
        grave={grave}
        canUndo={history.canUndo}
        canRedo={history.canRedo}
        undo={engine.undo}
        redo={engine.redo}
      />
      <nav aria-label="Parts of the sheet" className="border-rule border-r px-5 py-5 max-md:border-r-0">
        <p className="border-ink border-b pb-2">
          <Link
            to={start.camera_id ? `/kit/cameras/${start.camera_id}` : "/kit"}
            className="text-small underline decoration-deep underline-offset-3"
          >
            Kit
          </Link>
          <b className="block pt-1 font-serif text-lead leading-tight font-semibold">
            {name || "New camera"}
          </b>
          {start.camera_id && <span className="text-fine text-muted">from edition {start.edition}</span>}
        </p>
        <ul className="max-md:grid max-md:grid-cols-2 max-md:gap-x-5">
          <PageLink
            on={page === "begin"}
            says="Begin"
            go={() => setPage("begin")}
            wrong={false}
            estimates={0}
          />
          {groups
            .filter((group) => group.id !== "box")
            .map((group) => (
              <PageLink
                key={group.id}
                on={page === group.id}
                says={group.title}
                go={() => setPage(group.id)}
                wrong={wrongIn(group)}
                estimates={inGroup(group)}
              />
            ))}
        </ul>
        <p className="pt-2 text-fine text-muted">≈ stands before the count of estimates.</p>
      </nav>
      <section className="min-w-0 px-6 py-5" aria-label="Sheet">
        {engine.meeting && <Conflict what="This sheet" engine={engine} />}
        {page === "begin" || !shown ? (
          <Begin
            draftId={draftId}
            rough={rough}
            done={done}
            change={change}
            box={groups.find(({ id }) => id === "box")}
            camera={groups.find(({ id }) => id === "camera")}
            inchTypes={inchTypes}
            toModes={() => setPage("modes")}
          />
        ) : shown.id === "modes" ? (
          <ModeList group={shown} rough={rough} whole={whole} change={change} />
        ) : (
          <GroupForm
            key={shown.id}
            group={shown}
            rough={rough}
            done={done}
            change={change}
            settle={settle}
            fixedId={start.camera_id !== null}
            kit={kit}
          />
        )}
      </section>
      <aside
        className="border-rule border-l px-6 py-5 max-lg:col-span-full max-lg:border-t max-lg:border-l-0"
        aria-label="The sheet so far"
      >
        <p className="flex flex-wrap items-baseline gap-x-3 border-ink border-b pb-2">
          <strong className="big-figure" data-testid="mode-count">
            {modeCount(rough)}
          </strong>
          <span>
            modes
            {done?.sheet && <span className="text-muted"> · {estimates.length} estimates</span>}
          </span>
        </p>
        {problem && (
          <p role="alert" className="py-1 text-small text-note">
            {problem}
          </p>
        )}
        {faults.length > 0 && (
          <ul className="py-1 text-small" aria-label="Still wanted">
            {faults.slice(0, 8).map(([where, what, mend]) => (
              <li key={`${where} ${what}`} className="border-hair border-b py-[4px]">
                <b className={isWanting(what) ? "" : "text-note"}>
                  {where || "The sheet"}: {what}.
                </b>{" "}
                {mend}
              </li>
            ))}
            {faults.length > 8 && <li className="py-1 text-muted">and {faults.length - 8} more</li>}
          </ul>
        )}
        {map && (
          <div className="pt-2">
            <div className="overflow-x-auto">
              <ModeMapPicture map={map} asked={asked} onAsk={setAsked} fit={360} caption="Modes so far" />
            </div>
            <Films map={map} />
            {asked && (
              <div className="pt-2" aria-live="polite">
                <LossWords map={map} asked={asked} />
              </div>
            )}
          </div>
        )}
        {!map && faults.length === 0 && <Loading what="Working out the modes." className="py-3" />}
        <div className="flex flex-wrap gap-2 pt-4">
          <button
            type="button"
            className="bold-plain disabled:opacity-45"
            disabled={keep.isPending || !whole}
            onClick={() => keep.mutate(false)}
          >
            {start.camera_id === null
              ? "Keep this camera"
              : `Keep as edition ${(onTop ?? start.edition ?? 1) + 1}`}
          </button>
          {start.camera_id !== null && (
            <button
              type="button"
              className="plain"
              disabled={keep.isPending || !whole}
              onClick={() => keep.mutate(true)}
            >
              Keep as another camera
            </button>
          )}
          {leaving ? (
            <span className="flex items-center gap-2 text-small">
              Nothing of it stays.
              <button type="button" className="plain" onClick={() => drop().then(() => navigate("/kit"))}>
                Discard it
              </button>
              <button type="button" className="plain" onClick={() => setLeaving(false)}>
                No
              </button>
            </span>
          ) : (
            <button type="button" className="plain text-muted" onClick={() => setLeaving(true)}>
              Discard
            </button>
          )}
        </div>
        {whole && (
          <p className="pt-2 text-fine text-muted">
            {start.camera_id === null
              ? "It can be kept now; estimates can be replaced whenever you know better."
              : "Saved plans stay with the edition that they were made with."}
          </p>
        )}
        {keep.error && (
          <div role="alert" className="mt-2 border-note border-l-3 pl-3 text-small">
            <b className="text-note">{refused?.title ?? "Not kept"}.</b> {keep.error.message}
            {refused?.faults.map((fault) => (
              <p key={fault.where}>
                {fault.where} {fault.what}. {fault.mend}
              </p>
            ))}
          </div>
        )}
      </aside>
    </main>
  );
}

/** What is only not there yet is no fault. */
function isWanting(what: string): boolean {
  return what === "is missing" || what === "there is none yet";
}

function PageLink(props: { on: boolean; says: string; go: () => void; wrong: boolean; estimates: number }) {
  return (
    <li className="border-hair border-b">
      <button
        type="button"
        aria-current={props.on ? "page" : undefined}
        className={`flex min-h-8 w-full items-baseline gap-2 py-[4px] text-left leading-tight hover:bg-second ${props.on ? "font-bold" : ""}`}
        onClick={props.go}
      >
        <span className="flex-1">{props.says}</span>
        {props.wrong && <span className="font-bold text-note">mend</span>}
        {props.estimates > 0 && (
          <span className="text-fine font-normal text-muted">
            ≈{"\u202f"}
            {props.estimates}
          </span>
        )}
      </button>
    </li>
  );
}

/** Fills the sheet up whenever it has rested for a moment, and draws its map. */
function useCompleted(rough: Rough) {
  const [state, setState] = useState<{ done: Completed | null; map: ModeMap | null; problem: string }>({
    done: null,
    map: null,
    problem: "",
  });
  useEffect(() => {
    const abort = new AbortController();
    const work = async () => {
      try {
        const done = await sheetsApi.complete(rough, abort.signal);
        const map = done.sheet ? await sheetsApi.roughMap(rough) : null;
        if (!abort.signal.aborted) setState((now) => ({ done, map: map ?? now.map, problem: "" }));
      } catch (error) {
        if (abort.signal.aborted) return;
        const said = error instanceof Problem && error.faults[0];
        const problem = said ? `${said.where} ${said.what}. ${said.mend}` : (error as Error).message;
        setState((now) => ({ ...now, problem }));
      }
    };
    const timer = window.setTimeout(() => void work(), CALM_MS);
    return () => {
      window.clearTimeout(timer);
      abort.abort();
    };
  }, [rough]);
  return state;
}

const SHEET_PARTS = ["sheet", "known"];

/** Keeps what was typed: here at once, and with the service after a moment. */
function useDraft(draftId: string, start: Start) {
  const { camera_id, edition } = start;
  const isKept = useRef(start.revision !== null);
  const shown = useMemo(() => flat(start.rough), [start]);
  const { engine, now, say, status } = useChanges<Fields>({
    place: `sheet.${draftId}`,
    shown,
    revision: start.revision ?? 0,
    pauseMs: SAVE_MS,
    retryMs: RETRY_MS,
    keepUndo: true,
    send: async (revision, typed) => {
      if (isKept.current) return toldOf(await sheetsApi.changeDraft(draftId, revision, typed));
      const rough = roughOf({ ...shown, ...typed });
      const kept = await sheetsApi.beginDraft(draftId, { camera_id, edition, rough });
      isKept.current = true;
      return toldOf(kept);
    },
    reread: async () => {
      const kept = toldOf(await sheetsApi.draft(draftId));
      engine.seen(kept.revision, kept.shown);
    },
  });
  const rough = useMemo(() => roughOf(now), [now]);
  const change = useCallback(
    (update: (rough: Rough) => Rough, tag: string | null = null) => {
      const stands = roughOf(engine.now);
      void say(differing(flat(stands), flat(update(stands))), { tag });
    },
    [engine, say],
  );
  const drop = useCallback(async () => {
    engine.forget();
    remember(`pasted.${draftId}`, null);
    await sheetsApi.dropDraft(draftId).catch(() => undefined);
    changed.drafts();
  }, [draftId, engine]);
  const says = {
    new: "",
    saving: "keeping",
    saved: "kept as begun",
    away: "cannot keep it now; it stays in this browser, trying again",
    refused: "cannot be kept as it is; it stays in this browser",
    conflict: "changed elsewhere; yours stays in this browser",
  }[status.kind];
  const grave = ["away", "refused", "conflict"].includes(status.kind);
  return { engine, rough, change, says, grave, drop };
}

/** A sheet of its flat fields; what is null is not said. */
function roughOf(fields: Fields): Rough {
  const said = Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== null));
  return nested(said, SHEET_PARTS) as Rough;
}

function toldOf(kept: DraftOut) {
  void changed.drafts();
  return { revision: kept.revision, shown: flat(kept.rough) };
}
