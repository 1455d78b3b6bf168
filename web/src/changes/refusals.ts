// What a refusal by the service says, and of which fields.

export type Fault = { where: string; what: string; mend: string };
/** A refusal as calls of the service throw it; status 0 where nobody answered. */
export type Refusal = Error & { status: number; faults: Fault[] };

const isRefusal = (error: unknown): error is Refusal => error instanceof Error && "status" in error;

/** Whether nobody answered, or somebody who could not; else the change itself was refused. */
export const isAway = (error: unknown): boolean =>
  !isRefusal(error) || error.status === 0 || error.status >= 500;

/** Whether a refusal says that the same was changed elsewhere meanwhile. */
export const wasMet = (error: unknown): error is Refusal =>
  isRefusal(error) && error.status === 409 && error.faults.length > 0;

/** Whether what the change was made on was never issued here: a copy was put back meanwhile. */
export const isUnknownRevision = (error: unknown): boolean =>
  isRefusal(error) && error.status === 422 && error.faults.some(({ where }) => where === "revision");

/** The fields of a change that faults name, whatever stands before their names in the refusal. */
export function namedIn(error: unknown, change: object): Map<string, Fault> {
  const named = new Map<string, Fault>();
  for (const fault of isRefusal(error) ? error.faults : []) {
    const where = fault.where.replaceAll(/\[\d+\]/g, "");
    for (const name of Object.keys(change))
      if (`.${where}.`.includes(`.${name}.`) && !named.has(name)) named.set(name, fault);
  }
  return named;
}

/** What stands there now, of each field that was changed elsewhere. */
export function metWords(faults: Fault[]): string {
  const nameOf = (where: string) => (where.split(".").pop() ?? where).replaceAll("_", " ");
  return faults.map((fault) => `${nameOf(fault.where)} ${fault.what}.`).join(" ");
}

/** What a refusal says, fault by fault. */
export function refusalWords(error: Error): string {
  if (wasMet(error)) return metWords(error.faults);
  const faults = isRefusal(error) ? error.faults : [];
  return faults.length
    ? faults
        .slice(0, 5)
        .map((fault) => `${fault.where}: ${fault.what}. ${fault.mend}`)
        .join(" ")
    : error.message;
}

/** The same without the names of fields, where only one is meant. */
export function shortWords(error: Error): string {
  const fault = isRefusal(error) ? error.faults[0] : undefined;
  return fault ? `${fault.what}. ${fault.mend}` : error.message;
}
