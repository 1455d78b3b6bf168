// Head of every station: name, stations, what was saved, ground, help.

import { useQuery } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { type ReactNode, useState } from "react";
import { Link, NavLink, Outlet, useLocation, useNavigate } from "react-router";
import { glossaryQuery } from "../api/uses";
import { recall } from "../changes/storage";
import { currentGround, groundNames, grounds, nextGround, setGround, useGround } from "../parts/ground";
import { HEAD_SLOT } from "../parts/head-tools";
import { useShortcuts } from "../parts/keyboard";
import { useReturnFocus } from "../parts/return-focus";
import { shortcuts } from "../parts/shortcuts";
import { goTour } from "../parts/touring";
import { Tour } from "./tour";

export function lastShot(): string | null {
  return recall<string>("last-shot");
}

export function Shell() {
  const navigate = useNavigate();
  const [help, setHelp] = useState(false);
  const { pathname } = useLocation();
  const shot = pathname.match(/^\/shots\/([^/]+)/)?.[1] ?? lastShot();
  useShortcuts("anywhere", (id) => {
    if (id === "go-shoots") navigate("/shoots");
    else if (id === "go-bench") navigate(shot ? `/shots/${shot}` : "/bench");
    else if (id === "go-card") navigate(shot ? `/shots/${shot}/card` : "/card");
    else if (id === "go-kit") navigate("/kit");
    else if (id === "go-look") navigate(shot ? `/shots/${shot}/look` : "/look");
    else if (id === "go-rushes") navigate("/rushes");
    else if (id === "go-log") navigate("/log");
    else if (id === "ground") nextGround();
    else if (id === "help") setHelp(true);
    return true;
  });
  return (
    <div className="flex min-h-dvh flex-col">
      <a
        href="#main"
        className="sr-only focus:not-sr-only focus:fixed focus:top-1 focus:left-2 focus:z-50 focus:bg-ground focus:px-3 focus:py-2"
      >
        Skip to the page
      </a>
      <header className="no-print flex h-11 flex-none items-stretch border-ink border-b px-[6px] min-[480px]:px-3 sm:px-6">
        <Link
          to="/shoots"
          className="mr-5 self-center font-serif text-title font-bold whitespace-nowrap max-[860px]:hidden sm:mr-9"
        >
          Steady Tide
        </Link>
        <nav
          aria-label="Stations"
          className="flex items-stretch gap-[3px] max-[480px]:flex-1 max-[480px]:justify-between max-[480px]:pr-1 min-[480px]:gap-[9px] md:gap-6"
        >
          <Station to="/shoots" on={pathname.startsWith("/shoots")}>
            Shoots
          </Station>
          <Station to={shot ? `/shots/${shot}` : "/bench"} on={/^\/(bench|shots\/[^/]+$)/.test(pathname)}>
            Bench
          </Station>
          <Station to={shot ? `/shots/${shot}/card` : "/card"} on={/\/?card$/.test(pathname)}>
            Card
          </Station>
          <Station to="/kit" on={pathname.startsWith("/kit")}>
            Kit
          </Station>
          <Station to={shot ? `/shots/${shot}/look` : "/look"} on={/\/?look$/.test(pathname)}>
            Look
          </Station>
          <Station to="/rushes" on={pathname.startsWith("/rushes")}>
            Rushes
          </Station>
          <Station to="/log" on={pathname.startsWith("/log")}>
            Log
          </Station>
        </nav>
        <div className="ml-auto flex items-center gap-1 text-fine text-muted min-[480px]:text-small md:gap-5">
          <div id={HEAD_SLOT} className="flex items-center gap-2 whitespace-nowrap md:gap-4" />
          <GroundChoice />
          <button
            type="button"
            className="grid size-7 place-content-center max-[480px]:hidden"
            aria-label="Keys"
            onClick={() => setHelp(true)}
          >
            ?
          </button>
        </div>
      </header>
      <div id="main" tabIndex={-1} className="flex flex-1 flex-col outline-none">
        <Outlet />
      </div>
      <Help
        open={help}
        onOpenChange={setHelp}
        around={() => {
          setHelp(false);
          navigate(shot ? `/shots/${shot}` : "/bench");
          goTour(0);
        }}
      />
      <Tour />
    </div>
  );
}

function Station({ to, on, children }: { to: string; on: boolean; children: ReactNode }) {
  return (
    <NavLink
      to={to}
      aria-current={on ? "page" : undefined}
      className={`flex min-w-[24px] items-center justify-center border-b-3 pt-[3px] text-fine min-[480px]:text-small md:text-body ${on ? "border-ink font-bold text-ink" : "border-transparent text-muted hover:text-ink"}`}
    >
      {children}
    </NavLink>
  );
}

function GroundChoice() {
  const ground = useGround();
  return (
    <label className="flex items-center">
      <span className="sr-only">Ground</span>
      <select
        className="h-7 border-none bg-transparent pr-1 text-small text-muted"
        value={ground}
        onChange={(event) => setGround(event.target.value as typeof ground)}
      >
        {grounds.map((name) => (
          <option key={name} value={name}>
            {groundNames[name]}
          </option>
        ))}
      </select>
    </label>
  );
}

const WHERE = {
  anywhere: "Anywhere",
  bench: "On the Bench",
  shoots: "In Shoots",
  card: "On the Card",
  kit: "In Kit",
  look: "In Look",
  rushes: "In Rushes",
  log: "In the Log",
  practice: "In Practice",
} as const;

/** The product's own words, all of them. */
function Words() {
  const words = useQuery(glossaryQuery);
  if (!words.data) return null;
  return (
    <section className="border-ink border-t pt-3">
      <h2 className="pb-1 font-serif text-lead font-semibold">Words</h2>
      <dl className="gap-8 sm:columns-2 lg:columns-3">
        {words.data.items.map((term) => (
          <div key={term.id} className="break-inside-avoid-column border-hair border-b py-[5px]">
            <dt className="font-bold">{term.term}</dt>
            <dd className="text-small leading-snug text-muted">{term.says}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

type HelpProps = { open: boolean; onOpenChange: (open: boolean) => void; around: () => void };

/** around: shows the Bench by pointing. */
function Help({ open, onOpenChange, around }: HelpProps) {
  const focus = useReturnFocus();
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal container={document.body}>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ground/80" data-ground={currentGround()} />
        <Dialog.Content
          {...focus}
          className="fixed top-[4dvh] left-1/2 z-50 max-h-[92dvh] w-[min(72rem,94vw)] -translate-x-1/2 overflow-y-auto border-2 border-ink bg-ground p-6 max-sm:p-4"
        >
          <div className="flex items-baseline justify-between gap-4 border-ink border-b pb-2">
            <Dialog.Title className="font-serif text-title font-semibold">
              Steady Tide, its keys and its words
            </Dialog.Title>
            <Dialog.Close className="plain">Close</Dialog.Close>
          </div>
          <Dialog.Description className="py-2 leading-[1.45]">
            Say what you film, in what light and from what mount: the Bench finds the settings that give up
            least, says in stops what each choice costs, and lets you pin what you know better. Shoots plans
            the day, the Card goes outside with you, Kit holds your cameras and glass, Look shows a plan
            before it is filmed, Rushes measures what came back, and the Log learns from it.
          </Dialog.Description>
          <p className="pb-3">
            <button type="button" className="plain" onClick={around}>
              Show me around the Bench
            </button>
          </p>
          <p className="pb-3 text-muted">Keys rest while you type. Esc closes whatever is open.</p>
          <div className="gap-8 sm:columns-2 lg:columns-3">
            {(
              ["anywhere", "shoots", "card", "kit", "look", "rushes", "log", "practice", "bench"] as const
            ).map((where) => (
              <section key={where} className="mb-4 break-inside-avoid-column">
                <h2 className="pb-1 font-serif italic">{WHERE[where]}</h2>
                <dl>
                  {shortcuts
                    .filter((entry) => entry.where === where)
                    .map((entry) => (
                      <div key={entry.id} className="flex gap-3 border-hair border-b py-[3px]">
                        <dt className="w-16 flex-none font-bold">
                          {entry.key === "U" ? "Shift+U" : entry.key.toUpperCase()}
                        </dt>
                        <dd>{entry.says}</dd>
                      </div>
                    ))}
                </dl>
              </section>
            ))}
          </div>
          <Words />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
