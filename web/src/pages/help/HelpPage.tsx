import { useState } from "react";
import { Link } from "react-router";
import { SHORTCUTS } from "../../shell/dialogs/shortcuts";
import { Button } from "../../ui/Button";
import { StartHeader } from "../start/StartHeader";
import { ANSWERED_BY, GUIDES, TERMS, type Topic } from "./terms";

const LOOKED = "oddkettle.looked";

/** Terms, how things are done, which page answers what, the keyboard, where the data is. */
export function HelpPage() {
  const [asked, setAsked] = useState("");
  const [again, setAgain] = useState(false);
  const wanted = asked.trim().toLowerCase();
  const fits = (...texts: string[]) =>
    wanted === "" || texts.some((text) => text.toLowerCase().includes(wanted));
  const topics = (list: readonly Topic[]) => list.filter((one) => fits(one.title, one.text));
  const terms = topics(TERMS);
  const guides = topics(GUIDES);
  const answers = ANSWERED_BY.filter(([question, page]) => fits(question, page));
  const none = terms.length + guides.length + answers.length === 0;
  return (
    <>
      <StartHeader />
      <main className="mx-auto max-w-[1000px] px-4 pt-5 pb-14 sm:px-6">
        <h1 className="text-2xl">Help</h1>
        <label htmlFor="help-search" className="mt-2 block text-sm text-ash">
          Search in it
        </label>
        <input
          id="help-search"
          type="search"
          className="field max-w-md"
          value={asked}
          onChange={(event) => setAsked(event.target.value)}
        />
        {none && <p className="mt-3">Nothing here says that. Try a shorter word.</p>}
        {terms.length > 0 && <Topics title="What the words mean" list={terms} />}
        {guides.length > 0 && <Topics title="How it is done" list={guides} />}
        {answers.length > 0 && (
          <section className="mt-6">
            <h2 className="text-xl">Which page answers which question</h2>
            <dl className="mt-2">
              {answers.map(([question, page]) => (
                <div key={question} className="flex gap-4 border-b border-line py-1.5">
                  <dt className="flex-1">{question}</dt>
                  <dd className="font-semibold">{page}</dd>
                </div>
              ))}
            </dl>
          </section>
        )}
        <section className="mt-6">
          <h2 className="text-xl">Practise</h2>
          <p className="mt-1">
            Ten small situations to act in, each with what comes of it.{" "}
            <Link to="/practise" className="underline">
              Begin with the first
            </Link>
          </p>
        </section>
        <section className="mt-6">
          <h2 className="text-xl">The keyboard</h2>
          <div className="mt-2 grid gap-4 sm:grid-cols-2">
            {SHORTCUTS.map((group) => (
              <div key={group.where}>
                <h3>{group.where}</h3>
                <dl className="text-sm">
                  {group.keys.map(([keys, does]) => (
                    <div key={keys} className="flex gap-3 border-b border-line/70 py-0.5">
                      <dt className="w-32 shrink-0 font-semibold">{keys}</dt>
                      <dd>{does}</dd>
                    </div>
                  ))}
                </dl>
              </div>
            ))}
          </div>
        </section>
        <section className="mt-6">
          <h2 className="text-xl">Where the data is</h2>
          <p className="mt-1">
            Everything is kept on the machine that runs Odd Kettle, in one file named{" "}
            <code>oddkettle.sqlite3</code> in its data folder (set by <code>ODDKETTLE_DATA</code>).
            “Save a copy of everything” on the home page makes a whole copy, and the app keeps some
            by itself in <code>copies</code> beside it. Nothing is sent anywhere. A plan, a log and
            a shelf can be saved as files.
          </p>
          <p className="mt-2">
            <Link to="/status" className="underline">
              How the program stands
            </Link>
            : its data file, its copies, and what it does by itself.
          </p>
          <Button
            className="mt-2"
            onClick={() => {
              localStorage.removeItem(LOOKED);
              setAgain(true);
            }}
          >
            Show the first notes on each page again
          </Button>
          {again && <span role="status"> They come when you open a page.</span>}
        </section>
      </main>
    </>
  );
}

function Topics({ title, list }: { title: string; list: readonly Topic[] }) {
  return (
    <section className="mt-6">
      <h2 className="text-xl">{title}</h2>
      <ul className="mt-2 grid gap-3 md:grid-cols-2">
        {list.map((one) => (
          <li key={one.id} id={one.id} className="card flex gap-3">
            {one.picture}
            <div>
              <h3 className="text-base">{one.title}</h3>
              <p>{one.text}</p>
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}
