import { Button } from "@chakra-ui/react";
import { type SyntheticEvent, useState } from "react";
import { type ApiError } from "../api/client";
import type { AfterBody, BetweenView, Catalogue, ReferralView, Specialist } from "../api/types";
import { Picker } from "../cards/Picker";
import { day } from "../ui/format";
import { useKept } from "../ui/useKept";
import { Problem } from "../ui/Problem";
import { TextField } from "../ui/TextField";

interface Typed {
  what: string;
  seen: string;
  since: string;
  to: Specialist;
  question: string;
  back_by: string;
}

const NOTHING: Typed = { what: "", seen: "", since: "", to: "physiotherapist", question: "", back_by: "" };

interface ReferralsProps {
  id: string;
  specialists: Catalogue["words"]["specialist"];
  view: BetweenView;
  write: (body: AfterBody) => Promise<void>;
}

/** What a fit cannot mend: who is asked what, the letter, and what came back. */
export function Referrals({ id, specialists, view, write }: ReferralsProps) {
  const { state: typed, edit: set } = useKept<Typed>(`wedge-referral-${id}`, NOTHING);
  const [refused, setRefused] = useState<ApiError>();
  const send = (event: SyntheticEvent) => {
    event.preventDefault();
    const { back_by, ...rest } = typed;
    void write({ referral: { ...rest, back_by: back_by === "" ? null : back_by } }).then(
      () => {
        setRefused(undefined);
        set(NOTHING);
      },
      (error: unknown) => setRefused(error as ApiError),
    );
  };
  return (
    <section className="between" aria-labelledby="referrals">
      <h2 id="referrals">Asked elsewhere</h2>
      <p>A fit is no diagnosis. Somebody who treats riders is the best to ask.</p>
      {view.referrals.map((referral) => (
        <Asked key={referral.id} id={id} asked={referral} write={write} />
      ))}
      {view.suggested.length > 0 && (
        <>
          <h3>This asks for it</h3>
          <ul className="suggested">
            {view.suggested.map((what) => (
              <li key={what}>
                {what} <Button onClick={() => set({ what })}>Refer</Button>
              </li>
            ))}
          </ul>
        </>
      )}
      <form onSubmit={send} aria-label="A new referral">
        <h3>Ask somebody</h3>
        <div className="referral">
          <TextField
            label="What it is"
            value={typed.what}
            error={refused?.at("/what")}
            onChange={(what) => set({ what })}
          />
          <TextField
            label="How it was seen"
            value={typed.seen}
            error={refused?.at("/seen")}
            onChange={(seen) => set({ seen })}
          />
          <TextField
            label="Since when"
            value={typed.since}
            error={refused?.at("/since")}
            onChange={(since) => set({ since })}
          />
          <Picker
            label="Who is asked"
            value={typed.to}
            options={specialists.map(({ key, label }) => ({ key: key as Specialist, words: label }))}
            onPick={(to) => set({ to })}
          />
          <TextField
            label="What they are asked"
            value={typed.question}
            error={refused?.at("/question")}
            onChange={(question) => set({ question })}
          />
          <div className="text-field">
            <label htmlFor="back-by">An answer by</label>
            <input id="back-by" type="date" value={typed.back_by} onChange={(e) => set({ back_by: e.target.value })} />
          </div>
        </div>
        <Problem words={refused && refused.errors.length === 0 ? refused.message : undefined} />
        <div className="buttons">
          <Button type="submit" variant="solid">
            Write it down
          </Button>
        </div>
      </form>
    </section>
  );
}

function Asked({ id, asked, write }: { id: string; asked: ReferralView; write: ReferralsProps["write"] }) {
  const [said, setSaid] = useState("");
  const [refused, setRefused] = useState<ApiError>();
  const by = asked.referral.back_by;
  return (
    <article className="asked" aria-label={asked.words}>
      <h3>{asked.words}</h3>
      <p>{asked.referral.question}</p>
      {asked.answered != null ? (
        <p>
          They said: <q>{asked.answered}</q>
        </p>
      ) : (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            write({ answered: { referral: asked.id, said } }).catch((error: unknown) => setRefused(error as ApiError));
          }}
        >
          {by != null && (
            <p className={asked.overdue ? "number-warning" : "number-hint"}>
              {asked.overdue ? "Overdue: an answer was wanted by" : "An answer is wanted by"} {day(by)}.
            </p>
          )}
          <TextField label="What they said" value={said} error={refused?.at("/said")} onChange={setSaid} />
          <div className="buttons">
            <Button type="submit">Write the answer down</Button>
          </div>
        </form>
      )}
      <p className="letters">
        <a href={`/api/sessions/${id}/referrals/${asked.id}/letter.pdf?paper=a4`}>Letter, A4</a>{" "}
        <a href={`/api/sessions/${id}/referrals/${asked.id}/letter.pdf?paper=letter`}>Letter, US paper</a>
      </p>
    </article>
  );
}
