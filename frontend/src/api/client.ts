import type { components } from "./schema";

type Schemas = components["schemas"];
export type JobView = Schemas["JobView"];
export type JobLine = Schemas["JobLineView"];
export type StageSheet = Schemas["StageSheet"];
export type JobSheet = Schemas["JobSheet"];
export type Answer = Schemas["AnswerText"];
export type Check = Schemas["CheckText"];
export type Given = Schemas["GivenText"];
export type Table = Schemas["TableText"];
export type Things = Schemas["ListText"];
export type NamedPlace = Schemas["PlaceText"];
export type GroundFile = Schemas["GroundFileView"];
export type Grid = Schemas["GridView"];
export type HowToRead = {
  name: string;
  columns?: string[];
  unit?: string;
  grid?: number;
  shift_east_m?: number;
  shift_north_m?: number;
  layers?: Record<string, string>;
  replace?: boolean;
};
export type Measure = Schemas["MeasureBody"];
export type Found = Schemas["FoundView"];
export type Section = Schemas["SectionView"];
export type Snapped = Schemas["SnappedView"];
export type Scene = Schemas["Scene"];
export type SceneArray = Schemas["SceneArray"];
export type ArrayLine = Schemas["ArrayView"];
export type SunDay = Schemas["SunView"];
export type FillBody = Schemas["FillBody"];
export type AskedSheet = Schemas["AskedSheet"];
/** What more a sheet is asked: what a row may lose, or the spot whose hours of sun are told. */
export type EnergyMore = { accepted?: string; spot?: string };
export type Stepped = "structure" | "frame";
export type EnergyOf = "year" | "tilt" | "around" | "pitch" | "strings";
export type Moved = Schemas["MovedView"];
export type Revision = Schemas["RevisionView"];
export type Compare = Schemas["CompareView"];
export type Member = Schemas["MemberView"];
export type Account = Schemas["AccountView"];
export type ProblemDetails = Schemas["ProblemDetails"];
export type ProblemItem = Schemas["ProblemItem"];
export type Work = Schemas["WorkView"];
export type Clash = Schemas["ClashView"];
export type Missing = Schemas["MissingText"];
export type FieldView = Schemas["FieldView"];
export type FieldPost = Schemas["PostView"];
export type FieldCover = Schemas["CoverView"];
export type FieldString = Schemas["StringView"];
export type FieldGrid = Schemas["ModuleGridView"];
export type FieldInspection = Schemas["InspectionView"];
export type FieldLoad = Schemas["LoadView"];
export type FieldPart = Schemas["PartView"];
export type KeptRecord = Schemas["RecordView"];
export type LookLink = Schemas["LinkView"];
export type LookView = Schemas["LookView"];
export type Paper = NonNullable<Schemas["WorkBody"]["paper"]>;
export type Rung = Schemas["RungView"];
export type FieldRecord = Schemas["RecordBody"];
export type Practice = Schemas["PracticeText"];
export type Mark = Schemas["Mark"];
export type Drawing = Schemas["Drawing"];
export type Cut = Schemas["Cut"];
export type Stage = Schemas["EditsBody"]["stage"];
export type Units = Schemas["EditsBody"]["units"];

/** Which screen is asked for: a stage, and the array that is open (empty: the first). */
export interface Place {
  stage: Stage;
  array: string;
}

/** An answer of the server that says what is wrong, field by field where it can. */
export class Problem extends Error {
  constructor(readonly details: ProblemDetails) {
    super(details.detail || details.title);
  }
}

/** Nobody answered, or who did could not: it is asked again later. */
export const isAway = ({ details }: Problem) => details.status === 0 || details.status >= 500;

async function ask<T>(method: string, path: string, body?: unknown, signal?: AbortSignal): Promise<T> {
  const raw = body instanceof Blob;
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      signal,
      headers: body === undefined ? undefined : { "Content-Type": "application/json" },
      body: body === undefined ? undefined : raw ? body : JSON.stringify(body),
    });
  } catch (error) {
    if (signal?.aborted) throw error;
    throw new Problem({
      title: "No answer",
      status: 0,
      detail: "The server does not answer. What you typed is kept here.",
    } as ProblemDetails);
  }
  if (response.status === 204) return undefined as T;
  const answer: unknown = await response.json().catch(() => null);
  if (!response.ok) {
    throw new Problem(
      (answer ?? { title: response.statusText, status: response.status, detail: "" }) as ProblemDetails,
    );
  }
  return answer as T;
}

const job = (id: string) => `/jobs/${encodeURIComponent(id)}`;

export const api = {
  who: () => ask<Account>("GET", "/session"),
  enter: (name: string, password: string) => ask<Account>("POST", "/session", { name, password }),
  join: (name: string, password: string) => ask<Account>("POST", "/accounts", { name, password }),
  leave: () => ask<undefined>("DELETE", "/session"),
  jobs: (signal?: AbortSignal) => ask<JobLine[]>("GET", "/jobs", undefined, signal),
  newJob: (name: string, rule_pack: Units, like: string | null) =>
    ask<{ id: string }>("POST", "/jobs", { name, rule_pack, like }),
  copyJob: (id: string, name: string) => ask<{ id: string }>("POST", `${job(id)}/copy`, { name }),
  putJob: (id: string, state: JobLine["state"]) => ask<undefined>("PUT", `${job(id)}/state`, { state }),
  keepAsUsual: (id: string, usual: boolean) => ask<undefined>("PUT", `${job(id)}/usual`, { usual }),
  importJob: (file: Blob) => ask<{ id: string }>("POST", "/jobs/import", file),
  show: (id: string, { stage, array }: Place, units: Units | null, signal?: AbortSignal) =>
    ask<JobView>(
      "GET",
      `${job(id)}/stages/${stage}?array=${array}${units ? `&units=${units}` : ""}`,
      undefined,
      signal,
    ),
  edit: (
    id: string,
    { stage, array }: Place,
    units: Units,
    step: number | null,
    edits: { path: string; text: string }[],
    signal?: AbortSignal,
  ) => ask<JobView>("POST", `${job(id)}/edits`, { stage, array, units, step, edits }, signal),
  step: (id: string, { stage, array }: Place, units: Units, step: number) =>
    ask<JobView>("POST", `${job(id)}/step`, { stage, array, units, step }),
  importDesign: (id: string, stage: Stage, units: Units, file: Blob) =>
    ask<JobView>("PUT", `${job(id)}/design?stage=${stage}&units=${units}`, file),
  lookAtFile: (id: string, units: Units, how: HowToRead, file: Blob) =>
    ask<GroundFile>(
      "POST",
      `${job(id)}/ground/look?units=${units}&how=${encodeURIComponent(JSON.stringify(how))}`,
      file,
    ),
  takeFile: (id: string, units: Units, how: HowToRead, file: Blob) =>
    ask<JobView>("PUT", `${job(id)}/ground?units=${units}&how=${encodeURIComponent(JSON.stringify(how))}`, file),
  grids: (id: string, words: string, signal?: AbortSignal) =>
    ask<Grid[]>("GET", `${job(id)}/ground/grids?words=${encodeURIComponent(words)}`, undefined, signal),
  /** A file's content and the name it is kept under; a Problem where it cannot be written. */
  file: async (id: string, name: string, wanted: Wanted): Promise<{ content: Blob; kept: string }> => {
    const response = await fetch(fileAddress(id, name, wanted));
    if (!response.ok) throw new Problem((await response.json()) as ProblemDetails);
    const kept = /filename="([^"]+)"/.exec(response.headers.get("Content-Disposition") ?? "")?.[1] ?? name;
    return { content: await response.blob(), kept };
  },
  measure: (id: string, body: Measure) => ask<Found[]>("POST", `${job(id)}/measure`, body),
  section: (id: string, units: Units, start: string, end: string, signal?: AbortSignal) =>
    ask<Section>(
      "GET",
      `${job(id)}/section?units=${units}&start=${encodeURIComponent(start)}&end=${encodeURIComponent(end)}`,
      undefined,
      signal,
    ),
  /** Where a table comes to stand that is moved by hand; one that is not there is one more. */
  snapTable: (id: string, array: string, table: string, [east, north]: [number, number]) =>
    ask<Snapped>("GET", `${job(id)}/tables/snap?array=${array}&table=${table}&east_m=${east}&north_m=${north}`),
  scene: (id: string, signal?: AbortSignal) => ask<Scene>("GET", `${job(id)}/scene`, undefined, signal),
  /** Lays an array's tables over the ground; who gives up leaves everything as it was. */
  /** The cheapest way from the array to the building, in place of the one that is drawn. */
  findWay: (id: string, units: Units, signal?: AbortSignal) =>
    ask<JobView>("POST", `${job(id)}/ways/find`, { units }, signal),
  fill: (id: string, body: FillBody, signal?: AbortSignal) =>
    ask<JobView>("POST", `${job(id)}/tables/fill`, body, signal),
  /** The draft beside revisions and steps, as a list. */
  variants: (id: string, units: Units, revisions: number[], steps: number[], signal?: AbortSignal) =>
    ask<Table>(
      "GET",
      `${job(id)}/variants?units=${units}${revisions.map((one) => `&revisions=${one}`).join("")}${steps.map((one) => `&steps=${one}`).join("")}`,
      undefined,
      signal,
    ),
  /** The shade on the ground at a minute of a local day. */
  shadows: (id: string, units: Units, day: string, minute: number, signal?: AbortSignal) =>
    ask<AskedSheet>("GET", `${job(id)}/energy/shadows?units=${units}&day=${day}&minute=${minute}`, undefined, signal),
  /** A list of prices, CSV. */
  takePrices: (id: string, units: Units, file: File) =>
    ask<JobView>(
      "PUT",
      `${job(id)}/materials/prices?units=${units}&name=${encodeURIComponent(file.name.slice(0, 80))}`,
      file,
    ),
  /** A merchant's profiles, CSV. */
  takeProfiles: (id: string, units: Units, file: File) =>
    ask<JobView>(
      "PUT",
      `${job(id)}/materials/profiles?units=${units}&name=${encodeURIComponent(file.name.slice(0, 80))}`,
      file,
    ),
  /** A year of weather, EPW or TMY3. */
  takeLoad: (id: string, units: Units, file: File) =>
    ask<JobView>(
      "PUT",
      `${job(id)}/energy/load?units=${units}&name=${encodeURIComponent(file.name.slice(0, 80))}`,
      file,
    ),
  takeWeather: (id: string, units: Units, file: File) =>
    ask<JobView>(
      "PUT",
      `${job(id)}/energy/weather?units=${units}&name=${encodeURIComponent(file.name.slice(0, 80))}`,
      file,
    ),
  /** A sheet of energy, worked out when it is asked for. */
  energy: (id: string, of: EnergyOf, units: Units, array: string, more: EnergyMore, signal?: AbortSignal) =>
    ask<AskedSheet>(
      "GET",
      `${job(id)}/energy/${of}?${new URLSearchParams({ units, array, ...more })}`,
      undefined,
      signal,
    ),
  /** An array at each of its tilts: its bents with their forces, or its frame with what tilts it. */
  tilts: (id: string, stage: Stepped, units: Units, array: string, signal?: AbortSignal) =>
    ask<AskedSheet>("GET", `${job(id)}/${stage}/tilts?${new URLSearchParams({ units, array })}`, undefined, signal),
  /** One support of an array, and what it asks for case by case. */
  support: (id: string, units: Units, array: string, at: string, signal?: AbortSignal) =>
    ask<AskedSheet>(
      "GET",
      `${job(id)}/structure/support?${new URLSearchParams({ units, array, at })}`,
      undefined,
      signal,
    ),
  /** What holds one support, by its number. */
  footing: (id: string, units: Units, array: string, support: string, signal?: AbortSignal) =>
    ask<AskedSheet>(
      "GET",
      `${job(id)}/footings/support?${new URLSearchParams({ units, array, support })}`,
      undefined,
      signal,
    ),
  /** The same of the one that stands nearest to a place. */
  footingAt: (id: string, units: Units, array: string, at: string) =>
    ask<AskedSheet>("GET", `${job(id)}/footings/support?${new URLSearchParams({ units, array, at })}`),
  /** Every way on for a support that stopped short. */
  stopped: (id: string, units: Units, array: string, seen: Stopped, signal?: AbortSignal) =>
    ask<AskedSheet>(
      "GET",
      `${job(id)}/footings/stopped?${new URLSearchParams({ units, array, ...seen })}`,
      undefined,
      signal,
    ),
  /** Every way to level a support whose top is off its line. */
  top: (id: string, units: Units, array: string, seen: TopOff, signal?: AbortSignal) =>
    ask<AskedSheet>("GET", `${job(id)}/frame/top?${new URLSearchParams({ units, array, ...seen })}`, undefined, signal),
  /** The gaps that bring a row of modules back to its string. */
  drift: (id: string, units: Units, array: string, seen: Sighted, signal?: AbortSignal) =>
    ask<AskedSheet>(
      "GET",
      `${job(id)}/modules/drift?${new URLSearchParams({ units, array, ...seen })}`,
      undefined,
      signal,
    ),
  /** What may go wrong with an array's footings. */
  odds: (id: string, units: Units, array: string, signal?: AbortSignal) =>
    ask<AskedSheet>("GET", `${job(id)}/footings/odds?${new URLSearchParams({ units, array })}`, undefined, signal),
  /** An array on every family of structure, or of footing. */
  families: (id: string, of: "structure" | "footings", units: Units, array: string, signal?: AbortSignal) =>
    ask<AskedSheet>("GET", `${job(id)}/${of}/families?${new URLSearchParams({ units, array })}`, undefined, signal),
  sun: (id: string, day: string, signal?: AbortSignal) =>
    ask<SunDay>("GET", `${job(id)}/sun?day=${day}`, undefined, signal),
  revisions: (id: string, signal?: AbortSignal) => ask<Revision[]>("GET", `${job(id)}/revisions`, undefined, signal),
  save: (id: string, note: string, issue: boolean, onto?: number, take_theirs: string[] = []) =>
    ask<Revision>("POST", `${job(id)}/revisions`, { note, issue, onto: onto ?? null, take_theirs }),
  restore: (id: string, number: number, stage: Stage, units: Units) =>
    ask<JobView>("POST", `${job(id)}/revisions/${number}/restore?stage=${stage}&units=${units}`),
  compare: (id: string, before: number, units: Units, after?: number, signal?: AbortSignal) =>
    ask<Compare>(
      "GET",
      `${job(id)}/compare?before=${before}&units=${units}${after === undefined ? "" : `&after=${after}`}`,
      undefined,
      signal,
    ),
  askWork: (id: string, wanted: { kind: "package" } | { kind: "papers"; paper: Paper; units: Units }) =>
    ask<Work>("POST", `${job(id)}/work`, wanted),
  work: (id: string, work: string, signal?: AbortSignal) =>
    ask<Work>("GET", `${job(id)}/work/${work}`, undefined, signal),
  stopWork: (id: string, work: string) => ask<undefined>("DELETE", `${job(id)}/work/${work}`),
  field: (id: string, units: Units | null, signal?: AbortSignal) =>
    ask<FieldView>("GET", `${job(id)}/field${units ? `?units=${units}` : ""}`, undefined, signal),
  addRecords: (id: string, units: Units, records: FieldRecord[]) =>
    ask<{ added: number; kept: number }>("POST", `${job(id)}/field/records`, { units, records }),
  keepPhoto: (id: string, hash: string, content: Blob) =>
    ask<undefined>("PUT", `${job(id)}/field/photos/${hash}`, content),
  links: (id: string, signal?: AbortSignal) => ask<LookLink[]>("GET", `${job(id)}/links`, undefined, signal),
  makeLink: (id: string, words: string, days: number) => ask<LookLink>("POST", `${job(id)}/links`, { words, days }),
  takeBack: (id: string, link: string) => ask<undefined>("DELETE", `${job(id)}/links/${link}`),
  look: (token: string, units: Units | null) =>
    ask<LookView>("GET", `/look/${encodeURIComponent(token)}${units ? `?units=${units}` : ""}`),
  members: (id: string, signal?: AbortSignal) => ask<Member[]>("GET", `${job(id)}/members`, undefined, signal),
  share: (id: string, name: string, role: "editor" | "viewer") =>
    ask<undefined>("POST", `${job(id)}/members`, { name, role }),
};

/** A support whose top is off its line: its number, by how much as it is typed, and on which side. */
export type TopOff = Record<"support" | "off" | "side", string>;
/** A support that stopped, by its number: how deep it went, how far it leans, where water stands; as typed. */
export type Stopped = Record<"support" | "reached" | "leans" | "water", string>;

/** A row against its string: at two modules how far off, and on which side; each as it is typed. */
export type Sighted = Record<"table" | "first" | "first_off" | "first_side" | "last" | "off" | "side", string>;

export const FILES = [
  "design.json",
  "stakes.csv",
  "cuts.csv",
  "sticks.csv",
  "loads.csv",
  "wires.csv",
  "signs.csv",
  "one-line.svg",
  "one-line.dxf",
  "materials.csv",
  "prices.csv",
  "profiles.csv",
  "tables.xlsx",
  "practice.csv",
  "schedule.csv",
  "schedule.ics",
  "as-built.csv",
  "covers.csv",
  "strings.csv",
  "serials.csv",
  "inspections.csv",
  "care.ics",
  "plan.json",
  "plan.geojson",
  "site.geojson",
  "site.dxf",
  "surface.xml",
  "shots.csv",
] as const;
export const photoAddress = (id: string, hash: string) => `/api${job(id)}/field/photos/${hash}`;
/** Where the wall's holes are set at full size as PDF. */
export const templateAddress = (id: string, array: string, paper: string, units: Units) =>
  `/api${job(id)}/trench/template.pdf?${new URLSearchParams({ array, paper, units })}`;
/** Where the calculation of one support is set as PDF. */
export const calculationAddress = (id: string, array: string, support: string, paper: string, units: Units) =>
  `/api${job(id)}/footings/calculation.pdf?${new URLSearchParams({ array, support, paper, units })}`;

export const papersAddress = (token: string, paper: Paper, units: Units) =>
  `/api/look/${encodeURIComponent(token)}/papers.pdf?paper=${paper}&units=${units}`;
export const workResult = (id: string, work: string) => `/api${job(id)}/work/${work}/result`;
/** In what a file is wanted: the reader's units, a length unit (empty: as the units have it), a map grid. */
export interface Wanted {
  units: Units;
  length: "" | "m" | "ft" | "in" | "us_ft";
  grid: number;
}

export const fileAddress = (id: string, name: string, wanted: Wanted) =>
  `/api${job(id)}/files/${name}?units=${wanted.units}&grid=${wanted.grid}${wanted.length && `&length=${wanted.length}`}`;
