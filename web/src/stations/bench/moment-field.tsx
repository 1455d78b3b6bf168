// A date and a time of day as they are typed; they count once they say a moment that can be meant.
import { useEffect, useId, useState } from "react";
import { ClockField } from "../../parts/fields";
import { localTime, momentOf, nextAt } from "./when";

type Props = {
  label: string;
  value: string | null;
  zone: string;
  onChange: (iso: string) => void;
  /** The day that a field without a value begins with. */
  day?: string;
  /** A moment that it may not come before. */
  after?: string;
  autoFocus?: boolean;
};

/** Years that a calendar of ours reaches; a year is typed digit by digit. */
const isDay = (text: string) => text >= "1900" && text < "2200";

export function MomentField({ label, value, zone, onChange, day: usual = "", after, autoFocus }: Props) {
  const id = useId();
  const local = value === null ? "" : localTime(value, zone);
  const [day, setDay] = useState(local.slice(0, 10) || usual);
  const [early, setEarly] = useState(false);
  useEffect(() => {
    if (local) setDay(local.slice(0, 10));
  }, [local]);
  const isBefore = (at: string | null) =>
    at !== null && after !== undefined && Date.parse(at) <= Date.parse(after);
  const say = (on: string, time: string, byClock = false) => {
    let at = isDay(on) && time !== "" ? momentOf(`${on}T${time}`, zone) : null;
    // A clock that is typed means its next time: 04:00 after 22:00 is of the next day.
    if (byClock && after !== undefined && isBefore(at)) at = nextAt(time, after, zone);
    const tooEarly = at !== null && after !== undefined && Date.parse(at) < Date.parse(after);
    setEarly(tooEarly);
    if (at !== null && !tooEarly && at !== value) onChange(at);
  };
  return (
    <fieldset>
      <legend className="text-fine text-muted">{label}</legend>
      <div className="grid grid-cols-[92px_minmax(0,1fr)] gap-2">
        <div>
          <ClockField
            label={`${label}, time`}
            value={local.slice(11)}
            autoFocus={autoFocus}
            onChange={(time) => say(day, time, true)}
          />
        </div>
        <input
          id={id}
          type="date"
          className="field text-ink"
          aria-label={`${label}, day`}
          value={day}
          onChange={(event) => {
            setDay(event.target.value);
            say(event.target.value, local.slice(11));
          }}
        />
      </div>
      {early && (
        <p role="alert" className="pt-1 text-fine text-note">
          It would end before it begins; give a later time.
        </p>
      )}
    </fieldset>
  );
}
