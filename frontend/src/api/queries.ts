import { keepPreviousData, QueryClient, queryOptions } from "@tanstack/react-query";
import {
  api,
  Problem,
  type EnergyMore,
  type EnergyOf,
  type Stepped,
  type AskedSheet,
  type JobView,
  type Sighted,
  type Stopped,
  type TopOff,
  type Units,
  type Work,
} from "./client";

const LOOKS_EVERY_MS = 400;

/** What the server holds, as the screens ask for it: late answers are dropped, what nobody waits for is given up. */
export const client = new QueryClient({
  defaultOptions: { queries: { retry: false, refetchOnReconnect: true, refetchOnWindowFocus: false } },
});

/** What is wrong, in words; empty where nothing is. */
export const wordsOf = (error: unknown) =>
  error instanceof Problem ? error.message : error ? String(error instanceof Error ? error.message : error) : "";

export const isOpen = (work: Work | undefined) => work?.state === "waiting" || work?.state === "working";

export const queries = {
  jobs: () =>
    queryOptions({ queryKey: ["jobs"], queryFn: ({ signal }) => api.jobs(signal), refetchOnWindowFocus: true }),
  revisions: (id: string, base: number) =>
    queryOptions({ queryKey: ["revisions", id, base], queryFn: ({ signal }) => api.revisions(id, signal) }),
  links: (id: string) => queryOptions({ queryKey: ["links", id], queryFn: ({ signal }) => api.links(id, signal) }),
  look: (token: string, units: Units | null) =>
    queryOptions({
      queryKey: ["look", token, units],
      queryFn: () => api.look(token, units),
      placeholderData: keepPreviousData,
    }),
  members: (id: string) =>
    queryOptions({ queryKey: ["members", id], queryFn: ({ signal }) => api.members(id, signal) }),
  compare: (id: string, step: number, units: Units, before: number, after?: number) =>
    queryOptions({
      queryKey: ["compare", id, step, units, before, after],
      queryFn: ({ signal }) => api.compare(id, before, units, after, signal),
    }),
  /** A section of the job as it stands on a step. */
  section: (id: string, step: number, units: Units, [start, end]: [string, string]) =>
    queryOptions({
      queryKey: ["section", id, step, units, start, end],
      queryFn: ({ signal }) => api.section(id, units, start, end, signal),
      placeholderData: keepPreviousData,
    }),
  scene: (id: string, step: number) =>
    queryOptions({
      queryKey: ["scene", id, step],
      queryFn: ({ signal }) => api.scene(id, signal),
      placeholderData: keepPreviousData,
      // A scene of a large field is megabytes: only what is looked at is kept.
      gcTime: 0,
    }),
  variants: (id: string, step: number, units: Units, revisions: number[], steps: number[]) =>
    queryOptions({
      queryKey: ["variants", id, step, units, revisions, steps],
      queryFn: ({ signal }) => api.variants(id, units, revisions, steps, signal),
      placeholderData: keepPreviousData,
    }),
  shadows: (id: string, step: number, units: Units, day: string, minute: number) =>
    queryOptions({
      queryKey: ["shadows", id, step, units, day, minute],
      queryFn: ({ signal }) => api.shadows(id, units, day, minute, signal),
      placeholderData: keepPreviousData,
    }),
  energy: (id: string, step: number, of: EnergyOf, units: Units, array: string, more: EnergyMore) =>
    queryOptions({
      queryKey: ["energy", id, of, array, step, units, more],
      queryFn: ({ signal }) => api.energy(id, of, units, array, more, signal),
      // Another question's sheet would be read as the answer to this one.
      placeholderData: (before: AskedSheet | undefined, query) => (query?.queryKey[2] === of ? before : undefined),
    }),
  tilts: (id: string, step: number, stage: Stepped, units: Units, array: string) =>
    queryOptions({
      queryKey: ["tilts", id, stage, array, step, units],
      queryFn: ({ signal }) => api.tilts(id, stage, units, array, signal),
      placeholderData: (before: AskedSheet | undefined, query) =>
        query?.queryKey[2] === stage && query.queryKey[3] === array ? before : undefined,
    }),
  support: (id: string, step: number, units: Units, array: string, at: string) =>
    queryOptions({
      queryKey: ["support", id, array, step, units, at],
      queryFn: ({ signal }) => api.support(id, units, array, at, signal),
      placeholderData: keepPreviousData,
    }),
  footing: (id: string, step: number, units: Units, array: string, support: string) =>
    queryOptions({
      queryKey: ["footing", id, array, step, units, support],
      queryFn: ({ signal }) => api.footing(id, units, array, support, signal),
      placeholderData: keepPreviousData,
    }),
  stopped: (id: string, step: number, units: Units, array: string, seen: Stopped) =>
    queryOptions({
      queryKey: ["stopped", id, array, step, units, seen],
      queryFn: ({ signal }) => api.stopped(id, units, array, seen, signal),
      placeholderData: keepPreviousData,
    }),
  top: (id: string, step: number, units: Units, array: string, seen: TopOff) =>
    queryOptions({
      queryKey: ["top", id, array, step, units, seen],
      queryFn: ({ signal }) => api.top(id, units, array, seen, signal),
      placeholderData: keepPreviousData,
    }),
  drift: (id: string, step: number, units: Units, array: string, seen: Sighted) =>
    queryOptions({
      queryKey: ["drift", id, array, step, units, seen],
      queryFn: ({ signal }) => api.drift(id, units, array, seen, signal),
      placeholderData: keepPreviousData,
    }),
  odds: (id: string, step: number, units: Units, array: string) =>
    queryOptions({
      queryKey: ["odds", id, array, step, units],
      queryFn: ({ signal }) => api.odds(id, units, array, signal),
      placeholderData: keepPreviousData,
    }),
  families: (id: string, of: "structure" | "footings", step: number, units: Units, array: string) =>
    queryOptions({
      queryKey: ["families", of, id, array, step, units],
      queryFn: ({ signal }) => api.families(id, of, units, array, signal),
      placeholderData: keepPreviousData,
    }),
  sun: (id: string, step: number, day: string) =>
    queryOptions({
      queryKey: ["sun", id, step, day],
      queryFn: ({ signal }) => api.sun(id, day, signal),
      placeholderData: keepPreviousData,
    }),
  grids: (id: string, words: string) =>
    queryOptions({ queryKey: ["grids", id, words], queryFn: ({ signal }) => api.grids(id, words, signal) }),
  /** What has a length on the site: ids and names of lines and outlines. */
  lines: (view: JobView) =>
    queryOptions({
      queryKey: ["lines", view.id, view.draft.position],
      queryFn: async ({ signal }) => {
        const site = await api.show(view.id, { stage: "site", array: view.array }, view.units, signal);
        const things = site.stage.lists.find((list) => list.path === "site.features")?.items ?? [];
        return things
          .filter((thing) => (thing.values.points ?? "").includes("\n"))
          .map((thing): [string, string] => [thing.path.split(".").at(-1) ?? "", thing.title]);
      },
    }),
  work: (id: string, work: string) =>
    queryOptions({
      queryKey: ["work", id, work],
      queryFn: ({ signal }) => api.work(id, work, signal),
      refetchInterval: ({ state }) => (isOpen(state.data) ? LOOKS_EVERY_MS : false),
    }),
};
