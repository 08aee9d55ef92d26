import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, type JobLine } from "../api/client";
import { queries, wordsOf } from "../api/queries";
import { CutStrip } from "../cut/CutStrip";
import { State } from "../ui/State";

type Order = "saved" | "name" | "place" | "state";

const ORDERS: Record<Order, { name: string; before: (a: JobLine, b: JobLine) => number }> = {
  saved: { name: "saved last", before: (a, b) => b.saved_at.localeCompare(a.saved_at) },
  name: { name: "by name", before: (a, b) => a.name.localeCompare(b.name) },
  place: { name: "by place", before: (a, b) => a.place.localeCompare(b.place, undefined, { numeric: true }) },
  state: { name: "most to do", before: (a, b) => b.missing - a.missing || b.stops - a.stops || b.looks - a.looks },
};
const SEARCHED_FROM = 4;

const saved = (iso: string) => new Date(iso).toLocaleDateString(undefined, { dateStyle: "medium" });

const fits = (job: JobLine, words: string) =>
  words
    .toLowerCase()
    .split(/\s+/)
    .every((word) => `${job.name} ${job.place} ${job.author}`.toLowerCase().includes(word));

/** The jobs, found by a word and put in order; those put away and deleted below, folded. */
export function JobList({ jobs }: { jobs: JobLine[] }) {
  const [words, setWords] = useState("");
  const [order, setOrder] = useState<Order>("saved");
  const found = jobs.filter((job) => fits(job, words.trim())).sort(ORDERS[order].before);
  const of = (state: JobLine["state"]) => found.filter((job) => job.state === state);
  const [open, archived, deleted] = [of("open"), of("archived"), of("deleted")];
  return (
    <>
      {jobs.length >= SEARCHED_FROM && (
        <div className="mb-2 flex flex-wrap gap-2" role="search">
          <input
            className="input input-sm grow basis-56"
            type="search"
            aria-label="Find a job"
            placeholder="a word of its name, place or person"
            value={words}
            onChange={(event) => setWords(event.target.value)}
          />
          <select
            className="select select-sm w-40"
            aria-label="Order of the jobs"
            value={order}
            onChange={(event) => setOrder(event.target.value as Order)}
          >
            {Object.entries(ORDERS).map(([key, { name }]) => (
              <option key={key} value={key}>
                {name}
              </option>
            ))}
          </select>
        </div>
      )}
      <ul className="border-base-content/40 border-t">
        {open.map((job) => (
          <JobRow key={job.id} job={job} />
        ))}
      </ul>
      {open.length === 0 && <p className="py-3">{words ? "No open job is called so." : "No job is open."}</p>}
      <Folded title="Put away" jobs={archived} />
      <Folded title="Deleted, kept for 30 days" jobs={deleted} />
    </>
  );
}

function Folded({ title, jobs }: { title: string; jobs: JobLine[] }) {
  if (jobs.length === 0) return null;
  return (
    <details className="border-b border-base-300">
      <summary className="min-h-11 cursor-pointer px-2 py-2.5 font-semibold hover:bg-base-200">
        {title} <span className="figure text-secondary text-[15px] font-normal">{jobs.length}</span>
      </summary>
      <ul>
        {jobs.map((job) => (
          <JobRow key={job.id} job={job} />
        ))}
      </ul>
    </details>
  );
}

function JobRow({ job }: { job: JobLine }) {
  return (
    <li className="border-b border-base-300" data-state={job.state}>
      {job.state === "deleted" ? (
        <p className="px-2 pt-3 text-[18px] font-semibold">{job.name}</p>
      ) : (
        <JobLink job={job} />
      )}
      <Actions job={job} />
    </li>
  );
}

/** What is done with a job as a whole; what cannot be seen again at once is asked first. */
function Actions({ job }: { job: JobLine }) {
  const held = useQueryClient();
  const navigate = useNavigate();
  const [asked, setAsked] = useState<"copy" | "delete" | null>(null);
  const [name, setName] = useState("");
  const put = useMutation({
    mutationFn: (state: JobLine["state"]) => api.putJob(job.id, state),
    onSuccess: () => held.invalidateQueries({ queryKey: queries.jobs().queryKey }),
  });
  const usual = useMutation({
    mutationFn: () => api.keepAsUsual(job.id, !job.usual),
    onSuccess: () => held.invalidateQueries({ queryKey: queries.jobs().queryKey }),
  });
  const copy = useMutation({
    mutationFn: () => api.copyJob(job.id, name),
    onSuccess: ({ id }) => navigate(`/jobs/${id}/site`),
  });
  const own = job.role === "owner";
  const wrong = wordsOf(put.error ?? usual.error ?? copy.error);
  const action = (words: string, act: () => void) => (
    <button
      key={words}
      type="button"
      className="link text-secondary min-h-9 text-[13px] pointer-coarse:min-h-11"
      aria-label={`${words.replace("…", "")} ${job.name}`}
      onClick={act}
    >
      {words}
    </button>
  );
  return (
    <div className="flex flex-wrap items-center gap-x-4 px-2 pb-1">
      {job.state !== "deleted" &&
        action("Copy…", () => {
          setName(`${job.name}, copy`);
          setAsked("copy");
        })}
      {own &&
        job.state !== "deleted" &&
        action(job.usual ? "No longer a usual" : "Make it a usual", () => usual.mutate())}
      {own && job.state === "open" && action("Put away", () => put.mutate("archived"))}
      {own && job.state === "archived" && action("Take out again", () => put.mutate("open"))}
      {own && job.state === "deleted" && action("Bring back", () => put.mutate("open"))}
      {own && job.state !== "deleted" && action("Delete…", () => setAsked("delete"))}
      {asked === "copy" && (
        <form
          className="flex w-full flex-wrap gap-2 pb-2"
          onSubmit={(event) => {
            event.preventDefault();
            copy.mutate();
          }}
        >
          <input
            className="input input-sm grow basis-56"
            aria-label="Name of the copy"
            autoFocus
            maxLength={120}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          <button type="submit" className="btn btn-primary btn-sm" disabled={name.trim() === ""}>
            Make the copy
          </button>
          <button type="button" className="btn btn-sm" onClick={() => setAsked(null)}>
            Leave it
          </button>
        </form>
      )}
      {asked === "delete" && (
        <div className="flex w-full flex-wrap items-center gap-2 pb-2" role="group" aria-label="Delete">
          <span>Delete {job.name} for everybody it is shared with? It can be brought back for 30 days.</span>
          <button
            type="button"
            className="btn btn-error btn-sm"
            autoFocus
            onClick={() => {
              setAsked(null);
              put.mutate("deleted");
            }}
          >
            Delete it
          </button>
          <button type="button" className="btn btn-sm" onClick={() => setAsked(null)}>
            Keep it
          </button>
        </div>
      )}
      {wrong && (
        <p role="alert" className="text-error w-full">
          {wrong}
        </p>
      )}
    </div>
  );
}

function JobLink({ job }: { job: JobLine }) {
  return (
    <Link
      to={`/jobs/${job.id}/rows`}
      className="hover:bg-base-200 grid gap-x-6 gap-y-2 px-2 py-3 sm:grid-cols-[1fr_auto]"
      data-testid="job"
    >
      <div className="sm:col-span-2">
        <CutStrip drawing={job.cut} />
      </div>
      <span>
        <span className="text-[18px] font-semibold">{job.name}</span>
        <span className="text-secondary block text-[13px]">
          {job.place && `${job.place}; `}
          {job.modules > 0 && `${job.modules} modules, ${job.power}; `}revision {job.revision} by {job.author},{" "}
          {saved(job.saved_at)}
          {job.role !== "owner" && `, shared with you`}
          {job.usual && `; a usual, to begin others from`}
        </span>
        <span className="block text-[13px]">
          {job.missing > 0 ? (
            <>
              <State level="nothing" /> {job.missing} still to say
            </>
          ) : job.stops > 0 ? (
            <>
              <State level="stop" /> {job.stops} {job.stops === 1 ? "stops" : "stop"} the job
            </>
          ) : (
            <>
              <State level="sound" /> nothing stops the job
            </>
          )}
          {job.looks > 0 && (
            <>
              {" "}
              <State level="look" /> {job.looks} to look at
            </>
          )}
        </span>
      </span>
      <span className="flex flex-wrap gap-x-6 gap-y-1">
        {job.headlines.map((answer) => (
          <span key={answer.key} className="sm:text-right">
            <span className="figure block text-[24px] leading-7 font-semibold whitespace-nowrap">{answer.text}</span>
            <span className="text-secondary text-[12.5px]">{answer.label}</span>
          </span>
        ))}
      </span>
    </Link>
  );
}
