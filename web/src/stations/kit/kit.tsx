// Kit: what the crew owns, by kind; each camera's sheet as a mode map; new sheets, measuring, files.
import { useQuery } from "@tanstack/react-query";
import { lazy, type ReactNode, Suspense, useEffect, useState } from "react";
import { Navigate, NavLink, Route, Routes, useLocation, useNavigate } from "react-router";
import { changed } from "../../api/keys";
import { gearFormsQuery, kitApi, kitQuery } from "../../api/kit";
import { draftsQuery } from "../../api/sheets";
import type { KitView, Schemas, ThingKind } from "../../api/types";
import { recall, remember } from "../../changes/storage";
import { Fold } from "../../parts/fold";
import { type Gone, GoneNote } from "../../parts/gone";
import { useShortcuts } from "../../parts/keyboard";
import { Loading } from "../../parts/loading";
import { Trouble } from "../../parts/trouble";
import { CameraPage } from "./camera-page";
import { Things } from "./things";

const Editor = lazy(() => import("./editor"));
const Measure = lazy(() => import("./measure"));
const KitFiles = lazy(() => import("./kit-files"));

export default function KitStation() {
  const kit = useQuery(kitQuery);
  const forms = useQuery(gearFormsQuery);
  useEffect(() => {
    document.title = "Kit · Steady Tide";
  }, []);
  const error = kit.error ?? forms.error;
  if (error && !(kit.data && forms.data))
    return (
      <Trouble
        error={error}
        retry={() => {
          void kit.refetch();
          void forms.refetch();
        }}
      />
    );
  if (!kit.data || !forms.data) return <Loading what="Loading the kit." />;
  return (
    <Suspense fallback={<p className="p-6 text-muted">One moment.</p>}>
      <Routes>
        <Route path="new" element={<NewSheet />} />
        <Route path="drafts/:draftId" element={<Editor kit={kit.data} />} />
        <Route path="*" element={<Owned kit={kit.data} forms={forms.data.items} />} />
      </Routes>
    </Suspense>
  );
}

/** A new sheet has its own address at once, so that coming back finds what was typed. */
function NewSheet() {
  return <Navigate to={`/kit/drafts/${crypto.randomUUID()}`} replace />;
}

type Forms = Schemas["GearForm"][];

function Owned({ kit, forms }: { kit: KitView; forms: Forms }) {
  const [gone, setGone] = useState<Gone | null>(null);
  const navigate = useNavigate();
  useShortcuts("kit", (id) => {
    if (id !== "new-camera") return false;
    navigate("/kit/new");
    return true;
  });
  const first = kit.cameras.find((camera) => camera.id === recall("last-camera")) ?? kit.cameras[0];
  return (
    <main className="grid flex-1 grid-cols-[236px_minmax(0,1fr)] max-md:grid-cols-1 max-md:content-start">
      <Aside kit={kit} forms={forms} gone={gone} setGone={setGone} />
      <Routes>
        <Route index element={first ? <Navigate to={`/kit/cameras/${first.id}`} replace /> : <NoCamera />} />
        <Route path="cameras/:cameraId" element={<CameraPage kit={kit} onGone={setGone} />} />
        <Route path="measure/:what?" element={<Measure kit={kit} />} />
        <Route path="files" element={<KitFiles />} />
        <Route path=":kind" element={<Things kit={kit} forms={forms} onGone={setGone} />} />
        <Route path="*" element={<p className="p-8 text-muted">The kit has no such page.</p>} />
      </Routes>
    </main>
  );
}

function NoCamera() {
  return (
    <p className="max-w-md p-8 font-serif text-title leading-relaxed text-muted">
      No camera is in the kit. Write a sheet for yours: six numbers from its box and the mode table of its
      manual are enough to begin.
    </p>
  );
}

function Aside(props: {
  kit: KitView;
  forms: Forms;
  gone: Gone | null;
  setGone: (gone: Gone | null) => void;
}) {
  const { kit, forms, gone, setGone } = props;
  const drafts = useQuery(draftsQuery);
  const [problem, setProblem] = useState("");
  const moveExamples = (away: boolean) =>
    kitApi.moveExamples(away).then(
      ({ count }) => {
        changed.kit();
        setGone(
          away ? { says: `${count} examples were put away.`, back: () => kitApi.moveExamples(false) } : null,
        );
      },
      (error: Error) => setProblem(error.message),
    );
  const examplesHere = kit.examples > 0;
  const { pathname } = useLocation();
  const part = pathname.split("/")[2] ?? "";
  const here =
    kit.cameras.find(({ id }) => pathname === `/kit/cameras/${id}`)?.name ??
    forms.find(({ id }) => id === part)?.title ??
    PARTS[part] ??
    kit.cameras[0]?.name ??
    "cameras";
  return (
    <aside className="border-rule border-r px-6 py-5 max-md:border-b max-md:px-4 max-md:py-1">
      <h1 className="border-ink border-b pb-2 font-serif text-title font-semibold max-md:sr-only">Kit</h1>
      <Fold says={`Kit: ${here}`}>
        <h2 className="pt-3 pb-1 font-serif text-body italic">Cameras</h2>
        <ul>
          {kit.cameras.map((camera) => (
            <Entry key={camera.id} to={`/kit/cameras/${camera.id}`} count={camera.count}>
              {camera.name}
              {camera.estimates > 0 && (
                <span className="text-fine font-normal text-muted">
                  {" "}
                  ≈{"\u202f"}
                  {camera.estimates}
                </span>
              )}
            </Entry>
          ))}
          {(drafts.data?.items ?? []).map((draft) => (
            <Entry key={draft.id} to={`/kit/drafts/${draft.id}`} count={null}>
              <i>{draft.name || "A sheet without a name"}</i>
              <span className="text-fine font-normal text-muted">, begun</span>
            </Entry>
          ))}
        </ul>
        <p className="pt-3">
          <NavLink to="/kit/new" className="bold-plain inline-flex items-center">
            New camera
          </NavLink>
        </p>
        <h2 className="pt-4 pb-1 font-serif text-body italic">Besides</h2>
        <ul>
          {forms.map(({ id, title }) => (
            <Entry
              key={id}
              to={`/kit/${id}`}
              count={kit[id as ThingKind].reduce(
                (sum, { thing }) => sum + ("count" in thing ? (thing.count ?? 1) : 1),
                0,
              )}
            >
              {title}
            </Entry>
          ))}
        </ul>
        <ul className="pt-4">
          <Entry to="/kit/measure" count={null}>
            Measure it
          </Entry>
          <Entry to="/kit/files" count={null}>
            Import and export
          </Entry>
        </ul>
        {examplesHere ? (
          <p className="pt-4 text-fine text-muted">
            {kit.examples} of these came as examples.{" "}
            <button type="button" className="min-h-[24px] underline" onClick={() => moveExamples(true)}>
              Put them away
            </button>
          </p>
        ) : (
          <p className="pt-4 text-fine text-muted">
            The examples are put away.{" "}
            <button type="button" className="min-h-[24px] underline" onClick={() => moveExamples(false)}>
              Bring them back
            </button>
          </p>
        )}
        {kit.away.length > 0 && (
          <details className="pt-3 text-fine text-muted">
            <summary className="cursor-pointer">
              Put away: {kit.away.length === 1 ? "one camera" : `${kit.away.length} cameras`}
            </summary>
            <ul>
              {kit.away.map(({ id, name }) => (
                <li key={id} className="flex justify-between border-hair border-b py-1">
                  {name}
                  <button
                    type="button"
                    className="min-h-[24px] underline"
                    aria-label={`Bring ${name} back`}
                    onClick={() =>
                      kitApi
                        .bringCameraBack(id)
                        .then(changed.kit, (error: Error) => setProblem(error.message))
                    }
                  >
                    bring back
                  </button>
                </li>
              ))}
            </ul>
          </details>
        )}
      </Fold>
      <GoneNote
        gone={gone}
        over={() => {
          changed.kit();
          setGone(null);
        }}
      />
      {problem && (
        <p role="alert" className="mt-3 text-small text-note">
          {problem}
        </p>
      )}
    </aside>
  );
}

const PARTS: Record<string, string> = {
  measure: "measure it",
  files: "import and export",
  new: "a new camera",
  drafts: "a sheet begun",
};

function Entry({ to, count, children }: { to: string; count: number | null; children: ReactNode }) {
  return (
    <li className="border-hair border-b">
      <NavLink
        to={to}
        onClick={() => to.startsWith("/kit/cameras/") && remember("last-camera", to.split("/").at(-1))}
        className={({ isActive }) =>
          `flex min-h-8 items-baseline gap-2 py-[5px] leading-tight hover:bg-second ${isActive ? "font-bold" : ""}`
        }
      >
        <span className="flex-1">{children}</span>
        {count !== null && <span className="text-muted">{count}</span>}
      </NavLink>
    </li>
  );
}
