// The brief as a sentence, and what is wrong with it under the words concerned.
import { Fragment } from "react";
import type { Fault } from "../../api/types";
import type { EditorProps } from "./editors";
import { TokenWord } from "./token-word";
import { faultsOf, faultWords, type Token } from "./tokens";

type Props = EditorProps & { tokens: Token[]; faults: Fault[]; settle: () => void };

export function Sentence({ tokens, faults, ...words }: Props) {
  const owned = tokens.map((token) => ({ token, wrong: faultsOf(token, faults) }));
  const shown = owned.filter(({ token }) => !token.aside);
  const loose = faults.filter((fault) => !owned.some(({ wrong }) => wrong.includes(fault)));
  return (
    <div>
      <p className="font-serif text-title leading-[1.52]" id="sentence">
        {shown.map(({ token, wrong }, index) => (
          <Fragment key={token.id}>
            {token.lead.replace(/^[,.] /, "")}
            <span className="whitespace-nowrap">
              <TokenWord token={token} wrong={wrong} {...words} />
              {token.trail ?? shown[index + 1]?.token.lead.match(/^[,.]/)?.[0]}
            </span>{" "}
          </Fragment>
        ))}
      </p>
      {faults.length > 0 && (
        <div role="alert" className="pt-1 text-small">
          {owned
            .filter(({ wrong }) => wrong.length > 0)
            .map(({ token, wrong }) => (
              <p key={token.id}>
                <b className="text-note">{token.name}:</b>{" "}
                {wrong.map((fault) => `${faultWords(fault)} ${fault.mend}`).join(" ")}
              </p>
            ))}
          {loose.map((fault) => (
            <p key={fault.where}>
              <b className="text-note">{fault.where}:</b> {faultWords(fault)} {fault.mend}
            </p>
          ))}
          <p>The last good plan stands below.</p>
        </div>
      )}
    </div>
  );
}

/** The tokens beside the camera: the way of working, the kit taken, and the takes. */
export function Beside({ tokens, faults, ...words }: Props) {
  const aside = tokens.filter((token) => token.aside);
  return (
    <p>
      {aside.map((token, index) => (
        <Fragment key={token.id}>
          {token.lead}
          <TokenWord token={token} wrong={faultsOf(token, faults)} {...words} />
          {index < aside.length - 1 ? ", " : "."}
        </Fragment>
      ))}
    </p>
  );
}
