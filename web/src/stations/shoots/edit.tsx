// What the edit is handed: groups that are corrected alike, clip by clip what is done, and the files to take along.
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { type EditClip, type EditStep, type Edit as EditText, editQuery } from "../../api/edit";
import type { Shoot } from "../../api/types";
import { recall, remember } from "../../changes/storage";
import { Loading } from "../../parts/loading";
import { Toggle } from "../../parts/toggle";
import { Trouble } from "../../parts/trouble";

export default function Edit({ shoot }: { shoot: Shoot }) {
  const [look, setLook] = useState<string | null>(() => recall("edit-look"));
  const [group, setGroup] = useState<string | null>(null);
  const told = useQuery({ ...editQuery(shoot.id, look), placeholderData: keepPreviousData });
  if (told.error && !told.data) return <Trouble error={told.error} retry={() => told.refetch()} />;
  if (!told.data) return <Loading what="Loading clips." className="py-4" />;
  const { edit, noted, measured } = told.data;
  if (noted === 0 && edit.without.length === 0)
    return (
      <p className="max-w-[560px] py-4 font-serif text-lead text-muted">
        Nothing is planned for this day yet. Once there are shots, their notes for the edit stand here; with
        takes and measures they get exact.
      </p>
    );
  const takes = edit.clips.filter((clip) => clip.take !== null).length;
  const shown = edit.clips.filter((clip) => group === null || clip.group === group);
  return (
    <div className="pt-3">
      <p className="border-hair border-b pb-2 font-serif text-title leading-[1.5]">
        {edit.groups.length === 1 ? "One group" : `${edit.groups.length} groups`} of clips that share their
        settings, <b className="font-semibold">{takes === 1 ? "one take" : `${takes} takes`} to cut</b>,{" "}
        {measured === 0
          ? "none of them measured: what stands here follows from the plans"
          : measured === takes
            ? "all measured"
            : `${measured} measured`}
        .
      </p>
      <div className="grid grid-cols-[minmax(0,1fr)_268px] max-lg:grid-cols-1">
        <div className="min-w-0 pt-3 pr-6 max-lg:pr-0">
          <h3 className="border-ink border-b pb-1 font-serif text-title font-semibold">
            The same for a group
          </h3>
          {edit.groups.map((one) => (
            <Group
              key={one.letter}
              group={one}
              on={group === one.letter}
              take={() => setGroup(group === one.letter ? null : one.letter)}
            />
          ))}
          <h3 className="flex items-baseline justify-between gap-4 border-ink border-b pt-5 pb-1 font-serif text-title font-semibold">
            Clip by clip
            <span className="font-sans text-small font-normal text-muted">
              {group === null ? (
                `${shown.length}`
              ) : (
                <>
                  group {group} only,{" "}
                  <button type="button" className="underline" onClick={() => setGroup(null)}>
                    show all
                  </button>
                </>
              )}
            </span>
          </h3>
          {shown.map((clip) => (
            <Clip key={`${clip.shot} ${clip.take}`} clip={clip} />
          ))}
          {edit.without.map((title) => (
            <p key={title} className="py-2 text-small">
              <b className="text-note">{title}</b> has no notes: no camera can film it as it stands.
            </p>
          ))}
        </div>
        <aside className="min-w-0 border-hair border-l pt-3 pl-6 max-lg:mt-5 max-lg:border-t max-lg:border-l-0 max-lg:pl-0">
          <Looks
            told={told.data}
            look={look}
            choose={(id) => {
              setLook(id);
              remember("edit-look", id);
            }}
          />
          <Out shoot={shoot} told={told.data} look={look} />
          {edit.phone.length > 0 && (
            <>
              <h3 className="border-ink border-b pt-5 pb-1 font-serif text-lead font-semibold">On a phone</h3>
              {edit.phone.map((line) => (
                <p key={line} className="pt-2 text-small leading-snug">
                  {line}
                </p>
              ))}
            </>
          )}
        </aside>
      </div>
    </div>
  );
}

type GroupText = EditText["edit"]["groups"][number];

function Group({ group, on, take }: { group: GroupText; on: boolean; take: () => void }) {
  return (
    <section
      aria-label={`Group ${group.letter}`}
      className="grid grid-cols-[44px_minmax(0,1fr)_minmax(0,1.1fr)] gap-x-4 border-hair border-b py-2 max-sm:grid-cols-[36px_minmax(0,1fr)]"
    >
      <button
        type="button"
        aria-pressed={on}
        aria-label={`Only group ${group.letter}`}
        className={`h-[36px] border border-ink font-serif text-title ${on ? "bg-ink text-ground" : "hover:bg-second"}`}
        onClick={take}
      >
        {group.letter}
      </button>
      <p className="text-small leading-snug">
        {group.shares}
        <span className="block text-muted">
          shots {group.numbers.join(", ")}; {group.clips}, {group.of}
        </span>
      </p>
      <Steps steps={group.steps} />
    </section>
  );
}

function Steps({ steps }: { steps: EditStep[] }) {
  return (
    <dl className="max-sm:col-span-2">
      {steps.map((step) => (
        <div key={step.name + step.value} className="flex justify-between gap-3 py-[2px] text-small">
          <dt className="flex-none text-muted">{step.name}</dt>
          <dd className="text-right font-bold">{step.value}</dd>
        </div>
      ))}
    </dl>
  );
}

function Clip({ clip }: { clip: EditClip }) {
  const cuts = clip.steps.filter((step) => step.name === "crop");
  const others = clip.steps.filter((step) => step.name !== "crop");
  return (
    <article
      aria-label={`${clip.title}, ${clip.take_words}`}
      className="grid grid-cols-[44px_minmax(0,1fr)_minmax(0,1.1fr)] gap-x-4 border-hair border-b py-[7px] max-sm:grid-cols-[36px_minmax(0,1fr)]"
    >
      <p className="pt-[1px] text-body font-bold">{clip.number}</p>
      <div className="text-small leading-snug">
        <Link to={`/shots/${clip.shot}`} className="text-body leading-tight font-bold">
          {clip.title}
        </Link>
        <p className={clip.take === null ? "text-note" : "text-muted"}>
          {clip.take === null ? (
            clip.take_words
          ) : (
            <Link className="underline decoration-deep underline-offset-2" to={`/log/takes/${clip.take}`}>
              {clip.take_words}
            </Link>
          )}
          , group {clip.group}, {clip.of}
          {clip.file && <span className="block break-all">{clip.file}</span>}
        </p>
        {clip.lost.map((one) => (
          <p key={one} className="font-bold text-note">
            Cannot be mended: {one}.
          </p>
        ))}
      </div>
      <div className="max-sm:col-span-2">
        <Steps steps={others} />
        <p className="text-fine text-muted">
          {cuts.map((cut) => (
            <span key={cut.value} className="mr-3 inline-block">
              {cut.value}
            </span>
          ))}
        </p>
      </div>
    </article>
  );
}

type LooksProps = { told: EditText; look: string | null; choose: (look: string | null) => void };

function Looks({ told, look, choose }: LooksProps) {
  return (
    <>
      <h3 className="border-ink border-b pb-1 font-serif text-lead font-semibold">A look on top</h3>
      <p className="flex flex-wrap gap-x-4 pt-2">
        <Toggle on={look === null} says="none" take={() => choose(null)} />
        {told.looks.map((one) => (
          <Toggle key={one.id} on={look === one.id} says={one.name} take={() => choose(one.id)} />
        ))}
      </p>
      <p className="pt-1 text-small text-muted">
        {told.looks.find((one) => one.id === look)?.says ?? "The finished picture as it is."}
      </p>
    </>
  );
}

function Out({ shoot, told, look }: { shoot: Shoot; told: EditText; look: string | null }) {
  const base = `/api/shoots/${shoot.id}/edit`;
  const asked = look === null ? "" : `?look=${encodeURIComponent(look)}`;
  const kept = told.edit.clips.some((clip) => clip.take !== null);
  return (
    <>
      <h3 className="border-ink border-b pt-5 pb-1 font-serif text-lead font-semibold">Export</h3>
      <p className="pt-2 text-small">
        <b>Notes</b>
        <span className="block">
          <File href={`${base}/notes.pdf${asked}`} says="on paper" />
          <File href={`${base}/notes.md${asked}`} says="Markdown" />
          <File href={`${base}/notes.csv${asked}`} says="CSV" />
        </span>
      </p>
      <p className="pt-3 text-small">
        <b>LUTs (.cube)</b>
        <span className="block">
          <File href={`${base}/luts.zip${asked}`} says={`${told.luts.length} files`} />
        </span>
        <span className="block text-fine text-muted">
          One for each profile, to see it as a finished picture; one for each shot, with its correction in it.
          A few seconds.
        </span>
      </p>
      {told.films.map((film) => (
        <p key={film.id} className="pt-3 text-small">
          <b>{film.title}</b>, a first assembly
          <span className="block">
            <File href={`${base}/assembly.otio?film=${film.id}`} says="OpenTimelineIO" />
            <File href={`${base}/assembly.edl?film=${film.id}`} says="edit decision list" />
          </span>
          <span className="block text-fine text-muted">
            {film.filmed} of {film.cuts} cuts from kept takes, at their best part; the others keep their
            place.
          </span>
        </p>
      ))}
      {kept && (
        <p className="pt-3 text-small">
          <b>The day’s kept takes</b> in a row
          <span className="block">
            <File href={`${base}/assembly.otio`} says="OpenTimelineIO" />
            <File href={`${base}/assembly.edl`} says="edit decision list" />
          </span>
        </p>
      )}
    </>
  );
}

function File({ href, says }: { href: string; says: string }) {
  return (
    <a
      className="mr-4 inline-block min-h-[26px] underline decoration-deep underline-offset-2 hover:text-ink"
      href={href}
      download
    >
      {says}
    </a>
  );
}
