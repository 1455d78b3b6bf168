// Where something is: typed by name or as a position, found without a network.
import { useQuery } from "@tanstack/react-query";
import { useEffect, useId, useState } from "react";
import { queries } from "../api/http";
import { placesQuery } from "../api/places";
import type { Schemas } from "../api/types";

export type FoundPlace = Schemas["FoundPlace"];

type Props = {
  label: string;
  /** The position as it stands; null where nobody said. */
  at: { latitude: number; longitude: number } | null;
  /** What it is called, where that was said. */
  called?: string;
  onPlace: (place: FoundPlace) => void;
  onClear?: () => void;
};

const PAUSE_MS = 150;

/** A position as it is read on a chart. */
export function positionWords({ latitude, longitude }: { latitude: number; longitude: number }): string {
  const part = (value: number, sides: string) =>
    `${Math.abs(value).toFixed(4)}\u00b0\u202f${value < 0 ? sides[1] : sides[0]}`;
  return `${part(latitude, "NS")}, ${part(longitude, "EW")}`;
}

export function PlaceField({ label, at, called = "", onPlace, onClear }: Props) {
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const [asked, setAsked] = useState("");
  const [chosen, setChosen] = useState(0);
  const [here, setHere] = useState(false);
  useEffect(() => {
    const wait = window.setTimeout(() => setAsked(typed?.trim() ?? ""), PAUSE_MS);
    return () => window.clearTimeout(wait);
  }, [typed]);
  const found = useQuery({ ...placesQuery(asked), enabled: asked.length > 1 });
  const isOpen = here && typed !== null && asked.length > 1;
  const isFresh = asked === typed?.trim() && !found.isPlaceholderData;
  const items = (isOpen && found.data?.items) || [];
  const take = (place: FoundPlace | undefined) => {
    if (!place) return;
    setTyped(null);
    onPlace(place);
  };
  // What was typed stays: a position counts, a name waits until one of its towns is chosen.
  const leave = () => {
    setHere(false);
    if (typed === null) return;
    if (typed.trim() === "") {
      if (at) onClear?.();
      setTyped(null);
    } else void answer(typed, (first) => first?.name === "" && take(first));
  };
  /** What is typed now, whatever the list still shows. */
  const answer = async (text: string, then: (first: FoundPlace | undefined) => void) => {
    try {
      then((await queries.fetchQuery(placesQuery(text.trim()))).items[0]);
    } catch {
      // The list says what went wrong; what was typed stays.
    }
  };
  const current = items[Math.min(chosen, items.length - 1)];
  return (
    <div className="relative">
      <label htmlFor={id} className="block pb-[2px] text-fine text-muted">
        {label}
      </label>
      <input
        id={id}
        className="field text-ink"
        role="combobox"
        aria-expanded={items.length > 0}
        aria-controls={`${id}-list`}
        aria-activedescendant={current ? `${id}-${items.indexOf(current)}` : undefined}
        aria-autocomplete="list"
        autoComplete="off"
        maxLength={120}
        placeholder="a town, or 38.72 N 9.14 W"
        value={typed ?? (called || (at ? positionWords(at) : ""))}
        onFocus={(event) => {
          setHere(true);
          event.target.select();
        }}
        onChange={(event) => {
          setTyped(event.target.value);
          setChosen(0);
        }}
        onBlur={leave}
        onKeyDown={(event) => {
          if (event.key === "ArrowDown") setChosen((n) => Math.min(items.length - 1, n + 1));
          else if (event.key === "ArrowUp") setChosen((n) => Math.max(0, n - 1));
          else if (event.key === "Enter" && typed !== null) {
            if (isFresh) take(current);
            else void answer(typed, take);
          } else if (event.key === "Escape" && typed !== null) {
            event.stopPropagation();
            setTyped(null);
          } else return;
          event.preventDefault();
        }}
      />
      {called && at && typed === null && <p className="pt-[2px] text-fine text-muted">{positionWords(at)}</p>}
      {!here && typed !== null && (
        <p role="alert" className="pt-1 text-fine text-note">
          Not taken yet: choose a place from the list.
        </p>
      )}
      {isOpen && (
        <div
          className="absolute z-40 w-full border-[1.5px] border-ink bg-ground"
          id={`${id}-list`}
          role="listbox"
          aria-label={label}
        >
          {items.map((place, n) => (
            <div
              key={`${place.name}${place.says}`}
              id={`${id}-${n}`}
              role="option"
              tabIndex={-1}
              aria-selected={place === current}
              className={`min-h-9 cursor-pointer border-hair border-b px-2 py-1 leading-tight ${place === current ? "bg-second font-bold" : "hover:bg-second"}`}
              // The field keeps the focus until it is taken.
              onMouseDown={(event) => {
                event.preventDefault();
                take(place);
              }}
            >
              {place.name ? `${place.name}, ${place.country}` : place.says}
              <span className="block text-fine font-normal text-muted">
                {place.name ? `${place.says}, ` : ""}
                {place.zone}
              </span>
            </div>
          ))}
          {found.isFetching && items.length === 0 && <p className="px-2 py-1 text-muted">Looking.</p>}
          {found.error && <p className="px-2 py-1 text-note">{found.error.message}</p>}
          {found.data && !found.isFetching && items.length === 0 && (
            <p role="status" className="px-2 py-1 text-small">
              No place has that name. Give the next town, or a position such as 38.72 N 9.14 W.
            </p>
          )}
        </div>
      )}
    </div>
  );
}
