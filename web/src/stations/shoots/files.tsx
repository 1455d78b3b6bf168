// Import and export: the shoot as files, cards on paper, and a list that is read.

import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { changed } from "../../api/keys";
import { shootsApi } from "../../api/shoots";
import type { Shoot } from "../../api/types";
import { refusalWords } from "../../changes/refusals";
import { FileButton } from "../../parts/file-button";
import { useGround } from "../../parts/ground";
import { PaperChoice, usePaper } from "../../parts/paper";

export default function Files({ shoot }: { shoot: Shoot }) {
  const ground = useGround();
  const [paper, setPaper] = usePaper();
  const at = `/api/shoots/${shoot.id}`;
  const out: [string, string, string][] = [
    ["Everything", `${at}/shoot.zip`, "one ZIP: the shoot, its list, calls, light, cards and camera sheets"],
    ["The shoot", `${at}/shoot.json`, "one file that this or another Steady Tide reads back exactly"],
    ["Shot list", `${at}/shots.csv`, "for a spreadsheet; light stands as a place or an EV"],
    ["Call sheet", `${at}/call-sheet.ics`, "for a calendar, one entry a shot"],
  ];
  return (
    <div className="grid max-w-[980px] gap-x-12 pt-4 lg:grid-cols-2">
      <section aria-label="Cards">
        <h3 className="border-ink border-b pb-1 font-serif text-lead font-semibold">Cards of the day</h3>
        <p className="py-2 text-muted">One page a shot, with presets and packing on the first.</p>
        <div className="flex flex-wrap items-center gap-3">
          <span className="w-[96px]">
            <PaperChoice paper={paper} onChange={setPaper} />
          </span>
          <a
            className="bold-plain grid place-content-center"
            href={`${at}/cards.pdf?paper=${paper}`}
            download
          >
            PDF
          </a>
          <a
            className="plain grid place-content-center"
            href={`${at}/cards.html?download=true&ground=${ground}`}
            download
          >
            File for a phone
          </a>
        </div>
        <h3 className="mt-7 border-ink border-b pb-1 font-serif text-lead font-semibold">Export</h3>
        <ul>
          {out.map(([says, href, hint]) => (
            <li key={href} className="border-hair border-b py-2">
              <a className="font-bold underline decoration-deep underline-offset-2" href={href} download>
                {says}
              </a>
              <span className="block text-fine text-muted">{hint}</span>
            </li>
          ))}
        </ul>
      </section>
      <BringIn shoot={shoot} />
    </div>
  );
}

function BringIn({ shoot }: { shoot: Shoot }) {
  const [file, setFile] = useState<File | null>(null);
  const name = file?.name ?? "";
  const bring = useMutation({
    mutationFn: ({ list, leaveOut }: { list: File; leaveOut: boolean }) =>
      shootsApi.importShots(shoot.id, list, leaveOut),
    onSuccess: (read) => {
      if (read.added.length) changed.everything();
    },
  });
  const undo = useMutation({
    mutationFn: (ids: string[]) => Promise.all(ids.map((id) => shootsApi.removeShot(id))),
    onSuccess: () => {
      changed.everything();
      bring.reset();
    },
  });
  const read = bring.data;
  return (
    <section aria-label="Import" className="max-lg:pt-7">
      <h3 className="border-ink border-b pb-1 font-serif text-lead font-semibold">Import a shot list</h3>
      <p className="py-2 text-muted">
        A CSV whose first row names the columns; only the title is needed. Where rows have faults, you decide
        whether the others are imported. The list above shows which columns there are. A whole shoot is
        imported at the left, below the shoots.
      </p>
      <FileButton
        label="Shot list as CSV"
        accept=".csv,text/csv"
        says="Choose a CSV"
        busy={bring.isPending}
        onFile={(list) => {
          setFile(list);
          bring.mutate({ list, leaveOut: false });
        }}
      />
      {bring.error && (
        <p role="alert" className="mt-3 border-note border-l-3 pl-3">
          <b className="text-note">{name} was not read.</b> {refusalWords(bring.error)}
        </p>
      )}
      {read && read.added.length > 0 && (
        <p role="status" className="mt-3">
          {read.added.length} {read.added.length === 1 ? "shot" : "shots"} came in from {name}.
          {read.passed_over.length > 0 && ` Passed over: ${read.passed_over.join(", ")}.`}{" "}
          <button type="button" className="underline" onClick={() => undo.mutate(read.added)}>
            Take them back
          </button>
        </p>
      )}
      {read && read.faults.length > 0 && (
        <div role="alert" className="mt-3">
          <p>
            {read.added.length === 0 ? (
              <>
                <b className="text-note">Nothing came in from {name}.</b> Mend{" "}
                {read.faults.length === 1 ? "this" : "these"}, and choose it again
                {read.ready > 0 && file ? (
                  <>
                    , or{" "}
                    <button
                      type="button"
                      className="underline"
                      disabled={bring.isPending}
                      onClick={() => bring.mutate({ list: file, leaveOut: true })}
                    >
                      take the other {read.ready === 1 ? "row" : `${read.ready} rows`}
                    </button>
                  </>
                ) : null}
                :
              </>
            ) : (
              <b>These rows were left out:</b>
            )}
          </p>
          <table className="mt-1 w-full border-collapse text-left">
            <thead>
              <tr className="text-fine text-muted [&>th]:font-normal">
                <th className="w-[46px]">row</th>
                <th className="w-[104px]">column</th>
                <th>what is wrong</th>
              </tr>
            </thead>
            <tbody>
              {read.faults.slice(0, 50).map((fault) => (
                <tr
                  key={`${fault.row} ${fault.column} ${fault.what}`}
                  className="border-hair border-t align-baseline [&>td]:py-1"
                >
                  <td className="font-bold">{fault.row}</td>
                  <td>{fault.column}</td>
                  <td>
                    {fault.what} <span className="text-muted">{fault.mend}</span>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {read.faults.length > 50 && <p className="text-muted">and {read.faults.length - 50} more.</p>}
        </div>
      )}
    </section>
  );
}
