// What stands in place of a station that could not be loaded, or that broke.
import { useRouteError } from "react-router";
import { Trouble } from "../parts/trouble";

const NOT_LOADED = /dynamically imported module|module script failed|error loading/i;

export function Failed() {
  const thrown = useRouteError();
  const error = thrown instanceof Error ? thrown : new Error(String(thrown));
  const told = NOT_LOADED.test(error.message)
    ? new Error(
        "This part of Steady Tide could not be loaded. Is it still running? It may have been updated.",
      )
    : new Error(`This part of Steady Tide broke: ${error.message}. What you typed is kept.`);
  return <Trouble error={told} retry={() => window.location.reload()} />;
}
