// One camera: its mode map, on which one can ask; what is estimated; editions, and the plans that keep them.
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { changed } from "../../api/keys";
import { editionsQuery, kitApi, mapQuery, sheetQuery } from "../../api/kit";
import { draftsQuery, fieldsQuery } from "../../api/sheets";
import type { CameraSheet, KeptCamera, KitView, ModeMap } from "../../api/types";
import { type Asked, AskLine, Films, LossWords, ModeMapPicture } from "../../instruments/mode-map";
import type { Gone } from "../../parts/gone";
import { useShortcuts } from "../../parts/keyboard";
import { Trouble } from "../../parts/trouble";
import { estimateRows } from "./estimates";
import { KeepingFields } from "./keeping-fields";

type Props = { kit: KitView; onGone: (gone: Gone) => void };

const KIND_WORDS: Record<string, string> = {
  action: "action camera",
  drone: "drone",
  phone: "phone",
  other: "camera",
};

export function CameraPage({ kit, onGone }: Props) {
  const { cameraId = "" } = useParams();
  const camera = kit.cameras.find((entry) => entry.id === cameraId);
  if (!camera)
    return (
      <p className="p-8 font-serif text-lead text-muted">
        There is no camera of that name in the kit; it may have been put away.
      </p>
    );
  return <Camera key={camera.id} kit={kit} camera={camera} onGone={onGone} />;
}

function Camera({ kit, camera, onGone }: Props & { camera: KeptCamera }) {
  const [asked, setAsked] = useState<Asked>(null);
  const [query, setQuery] = useSearchParams();
  const navigate = useNavigate();
  const drafts = useQuery(draftsQuery);
  const other = query.get("with");
  const map = useQuery(mapQuery(camera.id));
  const otherMap = useQuery({ ...mapQuery(other ?? ""), enabled: other !== null });
  useEffect(() => {
    document.title = `${camera.name} · Kit · Steady Tide`;
  }, [camera.name]);
  useShortcuts("kit", (id) => {
    if (id !== "ask-no-more" || !asked) return false;
    setAsked(null);
    return true;
  });
  const begun = drafts.data?.items.find((draft) => draft.camera_id === camera.id);
  const putAway = () =>
    kitApi.putCameraAway(camera.id).then(() => {
      onGone({ says: `The ${camera.name} was put away.`, back: () => kitApi.bringCameraBack(camera.id) });
      navigate("/kit");
      changed.kit();
    });
  const [problem, setProblem] = useState("");
  return (
    <section className="min-w-0 px-7 py-5" aria-label={camera.name}>
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
        <h2 className="font-serif text-head font-semibold">{camera.name}</h2>
        <p className="text-muted">
          {[
            KIND_WORDS[camera.kind],
            `${camera.modes} modes`,
            `edition ${camera.edition}`,
            camera.estimates > 0 ? `${camera.estimates} of its numbers are estimates` : "no estimates",
          ].join(" · ")}
        </p>
        <p className="ml-auto flex flex-wrap gap-2">
          <Link className="plain inline-flex items-center" to={`/shoots?with=${camera.id}`}>
            Plan a shot with it
          </Link>
          <Link className="plain inline-flex items-center" to={`/uses/${camera.id}`}>
            Set it up once
          </Link>
          <Link
            className="plain inline-flex items-center"
            to={begun ? `/kit/drafts/${begun.id}` : `/kit/drafts/${crypto.randomUUID()}?of=${camera.id}`}
          >
            {begun ? "Go on with its sheet" : "Change its sheet"}
          </Link>
          <button
            type="button"
            className="plain text-muted"
            onClick={() => putAway().catch((error: Error) => setProblem(error.message))}
          >
            Put away
          </button>
        </p>
      </div>
      {problem && (
        <p role="alert" className="text-note">
          {problem}
        </p>
      )}
      <KeepingFields
        key={camera.id}
        place={`keeping.cameras.${camera.id}`}
        name={camera.name}
        count={camera.count}
        keeping={camera.keeping}
        ready={kit.gets_ready.cameras ?? ""}
        revision={camera.revision}
        keep={(revision, change) => kitApi.keepCamera(camera.id, revision, change)}
      />
      <div className="mt-3 flex flex-wrap items-baseline gap-x-4 border-ink border-b pb-1">
        <h3 className="font-serif text-lead font-semibold">What goes with what</h3>
        <p className="text-fine text-muted">
          Choose a frame rate, a resolution or any other value to see what it costs. A deep mark is a pair
          that exists.
        </p>
        <label className="ml-auto text-small text-muted">
          beside{" "}
          <select
            className="min-h-[25px] border-muted border-b text-ink"
            aria-label="Beside"
            value={other ?? ""}
            onChange={(event) => setQuery(event.target.value ? { with: event.target.value } : {})}
          >
            <option value="">no other</option>
            {kit.cameras
              .filter((entry) => entry.id !== camera.id)
              .map((entry) => (
                <option key={entry.id} value={entry.id}>
                  {entry.name}
                </option>
              ))}
          </select>
        </label>
      </div>
      {map.error && !map.data && <Trouble error={map.error} retry={() => map.refetch()} />}
      {other === null ? (
        map.data && <OneMap map={map.data} asked={asked} onAsk={setAsked} />
      ) : (
        <div className="grid gap-x-8 gap-y-5 pt-2 xl:grid-cols-2">
          {[map.data, otherMap.data].map(
            (entry) =>
              entry && (
                <div key={entry.camera} className="min-w-0">
                  <h4 className="pb-1 text-lead font-bold">{entry.name}</h4>
                  <div className="overflow-x-auto">
                    <ModeMapPicture
                      map={entry}
                      asked={asked}
                      onAsk={setAsked}
                      fit={470}
                      caption={`Modes of the ${entry.name}`}
                    />
                  </div>
                  <Films map={entry} />
                  <div className="pt-2" aria-live="polite">
                    {asked ? (
                      <LossWords map={entry} asked={asked} />
                    ) : (
                      <AskLine map={entry} asked={asked} onAsk={setAsked} />
                    )}
                  </div>
                </div>
              ),
          )}
        </div>
      )}
      <Estimated camera={camera} />
      <PastAndPlans camera={camera} />
    </section>
  );
}

/** The map with what can be asked and the answer at its right. */
export function OneMap({ map, asked, onAsk }: { map: ModeMap; asked: Asked; onAsk: (asked: Asked) => void }) {
  return (
    <div className="grid gap-x-8 gap-y-3 pt-2 xl:grid-cols-[auto_minmax(260px,1fr)]">
      <div className="min-w-0 overflow-x-auto">
        <ModeMapPicture
          map={map}
          asked={asked}
          onAsk={onAsk}
          fit={690}
          caption={`Modes of the ${map.name}`}
        />
        <Films map={map} />
      </div>
      <div>
        <AskLine map={map} asked={asked} onAsk={onAsk} />
        <div className="mt-3 border-rule border-t pt-3" aria-live="polite" data-testid="loss">
          {asked ? (
            <>
              <LossWords map={map} asked={asked} />
              <button type="button" className="plain mt-3" onClick={() => onAsk(null)}>
                Ask no more
              </button>
            </>
          ) : (
            <p className="text-small text-muted">
              {map.count} ways to combine resolution, frame rate, field of view and stabilisation. Choose a
              value to see what is lost with it.
            </p>
          )}
        </div>
      </div>
    </div>
  );
}

function Estimated({ camera }: { camera: KeptCamera }) {
  const sheet = useQuery({ ...sheetQuery(camera.id), enabled: camera.estimates > 0 });
  if (camera.estimates === 0 || !sheet.data) return null;
  return <EstimateList sheet={sheet.data} />;
}

function EstimateList({ sheet }: { sheet: CameraSheet }) {
  const fields = useQuery(fieldsQuery);
  if (!fields.data) return null;
  const rows = estimateRows(sheet, fields.data.items);
  return (
    <details className="mt-6">
      <summary className="cursor-pointer border-ink border-b pb-1 font-serif text-lead font-semibold">
        What is estimated{" "}
        <span className="font-sans text-small font-normal text-muted">
          {sheet.estimates?.length ?? 0} numbers; none of them is the maker's
        </span>
      </summary>
      <table className="w-full text-left text-small">
        <thead className="sr-only">
          <tr>
            <th>number</th>
            <th>estimate</th>
            <th>why</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.field} className="border-hair border-b align-baseline [&>td]:py-[3px]">
              <td className="w-[280px] pr-4">{row.field}</td>
              <td className="w-[220px] pr-4">
                <b>{row.value}</b> {row.range && <span className="text-muted">{row.range}</span>}
              </td>
              <td className="text-muted">{row.how}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}

function PastAndPlans({ camera }: { camera: KeptCamera }) {
  const past = useQuery(editionsQuery(camera.id));
  const [problem, setProblem] = useState("");
  const found = past.data;
  if (!found) return null;
  const older = found.plans.filter((plan) => plan.edition !== camera.edition);
  const day = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", year: "numeric" });
  const again = (edition: number) =>
    kitApi.editionAgain(camera.id, edition).then(
      () => {
        changed.kit();
        changed.editions();
      },
      (error: Error) => setProblem(error.message),
    );
  return (
    <div className="mt-6 grid gap-8 lg:grid-cols-2">
      <section aria-label="Editions">
        <h3 className="border-ink border-b pb-1 font-serif text-lead font-semibold">Editions</h3>
        <ul>
          {found.items.map((item) => (
            <li
              key={item.edition}
              className="flex flex-wrap items-baseline gap-x-3 border-hair border-b py-[5px]"
            >
              <b className="w-6">{item.edition}</b>
              <span className="flex-1">
                {item.modes} modes, {item.estimates} estimates
                <span className="text-muted"> · {day.format(new Date(item.created_at))}</span>
                {item.latest && " · the latest"}
              </span>
              {["json", "yaml"].map((spelling) => (
                <a
                  key={spelling}
                  className="underline decoration-deep underline-offset-3"
                  download
                  href={`/api/cameras/${camera.id}/sheet?spelling=${spelling}&edition=${item.edition}`}
                  aria-label={`Edition ${item.edition} as ${spelling.toUpperCase()}`}
                >
                  {spelling.toUpperCase()}
                </a>
              ))}
              {!item.latest && (
                <button type="button" className="min-h-[24px] underline" onClick={() => again(item.edition)}>
                  make it the latest
                </button>
              )}
            </li>
          ))}
        </ul>
        {problem && (
          <p role="alert" className="text-note">
            {problem}
          </p>
        )}
      </section>
      <section aria-label="Plans that use it">
        <h3 className="border-ink border-b pb-1 font-serif text-lead font-semibold">Plans that use it</h3>
        {found.plans.length === 0 && <p className="py-2 text-muted">No saved plan uses it yet.</p>}
        <ul>
          {found.plans.map((plan) => (
            <li key={plan.shot_id} className="flex items-baseline gap-3 border-hair border-b py-[5px]">
              <Link
                to={`/shots/${plan.shot_id}`}
                className="flex-1 underline decoration-deep underline-offset-3"
              >
                {plan.title}
              </Link>
              <span className={plan.edition === camera.edition ? "text-muted" : "font-bold text-note"}>
                edition {plan.edition}
              </span>
            </li>
          ))}
        </ul>
        {older.length > 0 && (
          <p className="pt-2 text-fine text-muted">
            A plan keeps the edition it was made with. Open one to see what the latest would change.
          </p>
        )}
      </section>
    </div>
  );
}
