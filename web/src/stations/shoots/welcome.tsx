// The first minutes: what it is for, with what, what, where.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { kitQuery } from "../../api/kit";
import { Toggle } from "../../parts/toggle";
import { NewFromUse } from "./new-from-use";

/** The first minutes: what it is for, what one films with and what, and there stands a plan. with_: camera that is chosen already. */
export function Welcome({ with_ }: { with_: string | null }) {
  const kit = useQuery(kitQuery);
  const [camera, setCamera] = useState<string | null>(with_);
  const cameras = kit.data?.cameras ?? [];
  return (
    <section aria-label="Welcome" className="min-w-0 max-w-[980px] px-7 py-6 max-md:px-4">
      <h2 className="font-serif text-head leading-tight font-semibold max-md:text-head">
        How do I set this camera up for what I film?
      </h2>
      <p className="pt-2 font-serif text-title leading-relaxed max-md:text-lead">
        Say what and where. Steady Tide answers with one setting sheet that your camera can do, exposed for
        the whole shot, and says what every compromise costs.
      </p>
      <h3 className="pt-5 pb-2 font-serif text-title font-semibold">What do you film with?</h3>
      <p className="flex flex-wrap gap-x-5 gap-y-1">
        <Toggle on={camera === null} says="the best of these" take={() => setCamera(null)} />
        {cameras.map((one) => (
          <Toggle
            key={one.id}
            on={camera === one.id}
            says={`${one.name}, ${one.kind === "action" ? "action camera" : one.kind}`}
            take={() => setCamera(one.id)}
          />
        ))}
        <Link className="underline decoration-deep underline-offset-2" to="/kit/new">
          enter yours, in five minutes
        </Link>
      </p>
      <p className="pt-1 text-small text-muted">
        These cameras are made up, like all that comes with the program.
      </p>
      <NewFromUse shoot={null} camera={camera} close={null} />
    </section>
  );
}
