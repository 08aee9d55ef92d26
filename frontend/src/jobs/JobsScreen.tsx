import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, Problem, type JobLine, type ProblemDetails, type Units } from "../api/client";
import { queries, wordsOf } from "../api/queries";
import { JobList } from "./JobList";
import { ProblemList } from "../ui/ProblemList";
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
      <title>Jobs · Open Furrow</title>
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
        {jobs && jobs.length > 0 && <JobList jobs={jobs} />}
        <section aria-label="New job" className="mt-6 grid gap-6 sm:grid-cols-2">
          <NewJob jobs={jobs ?? []} make={(jobName, pack, like) => void made(() => api.newJob(jobName, pack, like))} />
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

interface NewJobProps {
  jobs: JobLine[];
  make: (name: string, pack: Units, like: string | null) => void;
}

function NewJob({ jobs, make }: NewJobProps) {
  const [name, setName] = useState("");
  const [pack, setPack] = useState<Units>("us");
  const [like, setLike] = useState("");
  const models = jobs.filter((job) => job.state !== "deleted");
  const of = (usual: boolean) => models.filter((job) => job.usual === usual);
  const groups = [
    { label: "Usuals", jobs: of(true) },
    { label: "Other jobs", jobs: of(false) },
  ];
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        make(name, pack, like || null);
      }}
    >
      <h2 className="font-semibold">{like ? "With the arrays of another job" : "From nothing"}</h2>
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
        {models.length > 0 && (
          <select
            className="select grow basis-56"
            aria-label="Arrays"
            value={like}
            onChange={(event) => setLike(event.target.value)}
          >
            <option value="">an array of practice, to be looked at</option>
            {groups.map(
              (group) =>
                group.jobs.length > 0 && (
                  <optgroup key={group.label} label={group.label}>
                    {group.jobs.map((job) => (
                      <option key={job.id} value={job.id}>
                        the arrays of {job.name}
                      </option>
                    ))}
                  </optgroup>
                ),
            )}
          </select>
        )}
        <button type="submit" className="btn btn-primary">
          Begin
        </button>
      </div>
      {like && (
        <p className="text-secondary mt-1 text-[13px]">
          Its modules, structures, footings, profiles, inverters and allowances come along. Place, ground, weather and
          the way do not; how its rows lie is to be looked at again.
        </p>
      )}
    </form>
  );
}
