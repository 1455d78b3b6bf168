// Log: takes with what was said of them, ladders, what gear did, and what all that taught.
import { useQuery } from "@tanstack/react-query";
import { lazy, type ReactNode, Suspense, useEffect, useState } from "react";
import { NavLink, Route, Routes, useLocation } from "react-router";
import { laddersQuery, notesQuery, numbersQuery, takesQuery } from "../../api/log";
import { Fold } from "../../parts/fold";
import { type Gone, GoneNote } from "../../parts/gone";
import { Takes } from "./takes";

const Ladders = lazy(() => import("./ladders"));
const LadderPage = lazy(() => import("./ladder-page"));
const OwnNumbers = lazy(() => import("./own-numbers"));
const Notes = lazy(() => import("./notes"));
const Files = lazy(() => import("./files"));

const NAMES: Record<string, string> = {
  "": "takes",
  ladders: "ladders",
  own: "your numbers",
  notes: "gear notes",
  files: "import and export",
};

export default function LogStation() {
  const [gone, setGone] = useState<Gone | null>(null);
  useEffect(() => {
    document.title = "Log · Steady Tide";
  }, []);
  return (
    <main className="grid flex-1 grid-cols-[236px_minmax(0,1fr)] max-md:grid-cols-1 max-md:content-start">
      <Aside gone={gone} setGone={setGone} />
      <Suspense fallback={<p className="p-6 text-muted">One moment.</p>}>
        <Routes>
          <Route index element={<Takes onGone={setGone} />} />
          <Route path="takes/:takeId" element={<Takes onGone={setGone} />} />
          <Route path="ladders" element={<Ladders />} />
          <Route path="ladders/:ladderId" element={<LadderPage onGone={setGone} />} />
          <Route path="own" element={<OwnNumbers />} />
          <Route path="notes" element={<Notes onGone={setGone} />} />
          <Route path="files" element={<Files />} />
          <Route path="*" element={<p className="p-8 text-muted">The Log has no such page.</p>} />
        </Routes>
      </Suspense>
    </main>
  );
}

function Aside({ gone, setGone }: { gone: Gone | null; setGone: (gone: Gone | null) => void }) {
  const { pathname } = useLocation();
  const here = NAMES[pathname.split("/")[2] ?? ""] ?? "takes";
  const takes = useQuery(takesQuery({}));
  const ladders = useQuery(laddersQuery);
  const notes = useQuery(notesQuery);
  const numbers = useQuery(numbersQuery);
  const on = numbers.data?.items.filter((one) => one.on).length;
  const known = numbers.data?.items.filter((one) => one.value !== null).length;
  return (
    <aside className="border-rule border-r px-6 py-5 max-md:border-b max-md:px-4 max-md:py-1">
      <h1 className="border-ink border-b pb-2 font-serif text-title font-semibold max-md:sr-only">Log</h1>
      <Fold says={`Log: ${here}`}>
        <ul className="pt-1">
          <Entry to="/log" end={pathname.startsWith("/log/takes") ? undefined : true} count={takes.data?.all}>
            Takes
          </Entry>
          <Entry to="/log/ladders" count={ladders.data?.total}>
            Ladders
          </Entry>
          <Entry to="/log/own" count={known === undefined ? undefined : on ? `${on} of ${known} on` : known}>
            Your numbers
          </Entry>
          <Entry to="/log/notes" count={notes.data?.total}>
            Gear notes
          </Entry>
          <Entry to="/log/files">Import and export</Entry>
        </ul>
      </Fold>
      <GoneNote gone={gone} over={() => setGone(null)} />
    </aside>
  );
}

function Entry(props: { to: string; end?: boolean; count?: number | string; children: ReactNode }) {
  return (
    <li className="border-hair border-b">
      <NavLink
        to={props.to}
        end={props.end}
        className={({ isActive }) =>
          `flex justify-between gap-3 py-[9px] leading-tight hover:bg-second ${isActive ? "font-bold" : ""}`
        }
      >
        {props.children}
        {props.count !== undefined && <span className="font-normal text-muted">{props.count}</span>}
      </NavLink>
    </li>
  );
}
