import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../../api/client";
import { queries, wordsOf } from "../../api/queries";

const USUAL_DAYS = 30;

/** Links for a customer or an inspector: they look, nobody signs in, and each can be taken back. */
export function Links({ id, readOnly }: { id: string; readOnly: boolean }) {
  const held = useQueryClient();
  const { data: links = [], error } = useQuery(queries.links(id));
  const [words, setWords] = useState("");
  const [days, setDays] = useState(String(USUAL_DAYS));
  const again = () => held.invalidateQueries({ queryKey: queries.links(id).queryKey });
  const make = useMutation({
    mutationFn: () => api.makeLink(id, words, Number(days)),
    onSuccess: () => {
      setWords("");
      return again();
    },
  });
  const take = useMutation({ mutationFn: (link: string) => api.takeBack(id, link), onSuccess: again });
  const address = make.data && `${location.origin}/look/${make.data.token}`;
  const wrong = wordsOf(make.error ?? take.error ?? error);
  return (
    <section aria-label="Who may look" className="border-t border-base-300 p-3 print:hidden">
      <h2 className="font-semibold">Who may look</h2>
      <ul>
        {links.map((link) => (
          <li key={link.id} className="flex flex-wrap items-baseline gap-2 py-1" data-link={link.id}>
            <span>{link.words}</span>
            <span className="text-secondary text-[13px]">until {link.expires_at.slice(0, 10)}</span>
            {!readOnly && (
              <button
                type="button"
                className="btn btn-sm ml-auto pointer-coarse:h-11!"
                onClick={() => take.mutate(link.id)}
              >
                Take back
              </button>
            )}
          </li>
        ))}
        {links.length === 0 && <li className="text-secondary text-[13px]">Nobody has a link.</li>}
      </ul>
      {!readOnly && (
        <form
          className="mt-2 flex flex-col gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            make.mutate();
          }}
        >
          <label className="flex flex-col text-[13px]">
            For whom
            <input
              className="input input-sm pointer-coarse:h-11!"
              required
              maxLength={80}
              placeholder="the inspector"
              value={words}
              onChange={(event) => setWords(event.target.value)}
            />
          </label>
          <label className="flex flex-col text-[13px]">
            For how many days
            <input
              className="input input-sm figure pointer-coarse:h-11!"
              required
              inputMode="numeric"
              pattern="[0-9]{1,3}"
              value={days}
              onChange={(event) => setDays(event.target.value)}
            />
          </label>
          <button type="submit" className="btn btn-sm pointer-coarse:h-12!">
            Make a link
          </button>
        </form>
      )}
      {address && (
        <p role="status" className="mt-2 text-[13px]">
          Copy it now, it is not shown again:
          <input
            className="input input-sm mt-1 w-full"
            readOnly
            aria-label="The link"
            value={address}
            onFocus={(event) => event.target.select()}
          />
        </p>
      )}
      {wrong && (
        <p role="alert" className="text-error mt-1">
          {wrong}
        </p>
      )}
    </section>
  );
}
