import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, Problem, type JobLine, type ProblemDetails, type Units } from "../api/client";
import { queries, wordsOf } from "../api/queries";
import { CutStrip } from "../cut/CutStrip";
import { ProblemList } from "../ui/ProblemList";
import { State } from "../ui/State";
import { ThemeButton } from "../ui/ThemeButton";

/** Every job of the account, with the numbers one knows it by. */
export function JobsScreen({ name, leave }: { name: string; leave: () => void }) {
  const { data: jobs, error } = useQuery(queries.jobs());
  const [wrong, setWrong] = useState<ProblemDetails | null>(null);
  const navigate = useNavigate();
  const made = async (work: () => Promise<{ id: string }>) => {
    try {
      const { id } = await work();
      void navigate(`/jobs/${id}/site`);
    } catch (error) {
      if (error instanceof Problem) setWrong(error.details);
    }
  };
  return (
    <div className="mx-auto max-w-5xl p-4">
      <header className="mb-4 flex flex-wrap items-baseline gap-3">
        <h1 className="text-[24px] font-semibold">Jobs</h1>
        <span className="text-secondary ml-auto">{name}</span>
        <ThemeButton />
        <button type="button" className="btn btn-ghost btn-sm" onClick={leave}>
          Sign out
        </button>
      </header>
      <main>
        {error && <p role="alert">{wordsOf(error)}</p>}
        {jobs?.length === 0 && <p className="mb-4">No job yet. Begin one below, or bring a design.json.</p>}
        <ul className="border-base-content/40 border-t">
          {jobs?.map((job) => (
            <JobRow key={job.id} job={job} />
          ))}
        </ul>
        <section aria-label="New job" className="mt-6 grid gap-6 sm:grid-cols-2">
          <NewJob make={(jobName, pack) => void made(() => api.newJob(jobName, pack))} />
          <div>
            <h2 className="font-semibold">From a file</h2>
            <label className="flex flex-col gap-1">
              <span className="text-secondary">A design.json becomes a job of yours.</span>
              <input
                type="file"
                className="file-input file-input-sm w-full"
                accept=".json,application/json"
                data-testid="import-job"
                onChange={(event) => {
                  const file = event.target.files?.[0];
                  setWrong(null);
                  if (file) void made(() => api.importJob(file));
                }}
              />
            </label>
            {wrong && <ProblemList details={wrong} kept="No job was made." />}
          </div>
        </section>
      </main>
    </div>
  );
}

function JobRow({ job }: { job: JobLine }) {
  return (
    <li className="border-b border-base-300">
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
            {job.modules > 0 && `${job.modules} modules, ${job.power}; `}revision {job.revision} by {job.author}
            {job.role !== "owner" && `, shared with you`}
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
    </li>
  );
}

function NewJob({ make }: { make: (name: string, pack: Units) => void }) {
  const [name, setName] = useState("");
  const [pack, setPack] = useState<Units>("us");
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        make(name, pack);
      }}
    >
      <h2 className="font-semibold">From nothing</h2>
      <div className="flex flex-wrap gap-2">
        <input
          className="input grow basis-56"
          aria-label="Name of the job"
          placeholder="what the job is called"
          required
          maxLength={120}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <select
          className="select w-44"
          aria-label="Rules"
          value={pack}
          onChange={(event) => setPack(event.target.value as Units)}
        >
          <option value="us">US rules, ft-in</option>
          <option value="metric">metric rules, m-mm</option>
        </select>
        <button type="submit" className="btn btn-primary">
          Begin
        </button>
      </div>
    </form>
  );
}
