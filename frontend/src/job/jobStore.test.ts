// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { JobView, ProblemDetails } from "../api/client";
import { JobStore } from "./jobStore";
import { keptTyped } from "./typed";

interface Call {
  method: string;
  path: string;
  body: { edits?: { path: string; text: string }[]; step?: number; units?: string; stage?: string };
  answer: (view: JobView) => void;
  refuse: (details: Partial<ProblemDetails>) => void;
  fail: () => void;
}

let calls: Call[] = [];

function view(stage: string, extra: object = {}): JobView {
  const draft = {
    base: 1,
    head: 1,
    head_author: "",
    changed: false,
    position: 1,
    steps: [0, 1, 2].map((number) => ({ number, made_at: "", label: "" })),
  };
  return {
    id: "7",
    role: "owner",
    name: "job",
    units: "us",
    display_units: "us",
    draft,
    moved: [],
    stage: { stage, answers: [], givens: [] },
    sheet: {},
    ...extra,
  } as unknown as JobView;
}

const json = (body: unknown, status: number) => new Response(JSON.stringify(body), { status });

/** Everything that can be done without the server has been done. */
const settled = () => vi.advanceTimersByTimeAsync(40);

beforeEach(() => {
  vi.useFakeTimers();
  localStorage.clear();
  calls = [];
  vi.stubGlobal(
    "fetch",
    (path: string, { method, body, signal }: { method: string; body?: string; signal?: AbortSignal }) =>
      new Promise<Response>((resolve, reject) => {
        signal?.addEventListener("abort", () => reject(new DOMException("aborted", "AbortError")));
        calls.push({
          method,
          path,
          body: JSON.parse(body ?? "{}") as Call["body"],
          answer: (shown) => resolve(json(shown, 200)),
          refuse: (details) =>
            resolve(json({ title: "Refused", detail: "Refused", ...details }, details.status ?? 422)),
          fail: () => reject(new TypeError("no network")),
        });
      }),
  );
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

async function opened(stage: "rows" | "site" = "rows"): Promise<JobStore> {
  const job = new JobStore("7", "Wren");
  void job.open(stage);
  await settled();
  calls[0]?.answer(view(stage));
  await settled();
  calls = [];
  return job;
}

const last = () => calls[calls.length - 1] as Call;

describe("what was kept by an older version", () => {
  it("lets go of shifts by number, since no browser knows which post that is", () => {
    const typed = { "arrays.1.structure.shifts": "3, 0.1 m", "arrays.1.rows.rows": "2" };
    localStorage.setItem("furrow.typed.Wren.j1", JSON.stringify({ typed, on: {}, version: 6 }));
    const kept = keptTyped("Wren", "j1");
    expect(kept.typed).toEqual({ "arrays.1.rows.rows": "2" });
    expect(kept.dropped).toBe(1);
  });

  it("goes to the field that it is now, or is dropped where nobody can tell", () => {
    const typed = {
      "footings.span_limit_m": "8 ft",
      "frame.lap_m": "1 ft",
      "frame.strut_foot_m": "6 in",
      "site.features.0.depth_m": "3 ft",
    };
    localStorage.setItem(
      "furrow.typed.Wren.7",
      JSON.stringify({ typed, on: { "footings.span_limit_m": 4 }, version: 2 }),
    );
    expect(keptTyped("Wren", "7")).toEqual({
      typed: {
        "arrays.1.structure.span_limit_m": "8 ft",
        "arrays.1.frame.lap_m": "1 ft",
        "arrays.1.structure.strut_foot_m": "6 in",
      },
      on: { "arrays.1.structure.span_limit_m": 4 },
      dropped: 1,
    });
    localStorage.removeItem("furrow.typed.Wren.7");
  });
});

describe("what is typed", () => {
  it("is sent together after a pause and leaves when it is taken", async () => {
    const job = await opened();
    job.type("rows.tilt_deg", "3");
    job.type("rows.tilt_deg", "30");
    job.type("rows.rows", "2");
    expect(calls).toHaveLength(0);
    await settled();
    expect(last().body.edits).toEqual([
      { path: "rows.tilt_deg", text: "30" },
      { path: "rows.rows", text: "2" },
    ]);
    expect(JSON.parse(localStorage.getItem("furrow.typed.Wren.7") ?? "")).toEqual({
      typed: { "rows.tilt_deg": "30", "rows.rows": "2" },
      on: { "rows.tilt_deg": 1, "rows.rows": 1 },
      version: 9,
    });
    last().answer(view("rows", { moved: [{ stage: "rows", key: "pitch", label: "Pitch", before: "1", after: "2" }] }));
    await settled();
    expect(job.snapshot().typed).toEqual({});
    expect(localStorage.getItem("furrow.typed.Wren.7")).toBeNull();
    expect(Object.keys(job.snapshot().moved)).toEqual(["rows.pitch"]);
    expect(calls).toHaveLength(1);
  });

  it("while an answer is on its way is kept, and sent after it", async () => {
    const job = await opened();
    job.type("rows.tilt_deg", "30");
    await settled();
    job.type("rows.tilt_deg", "31");
    await settled();
    expect(calls).toHaveLength(1);
    last().answer(view("rows"));
    await settled();
    expect(job.snapshot().typed).toEqual({ "rows.tilt_deg": "31" });
    expect(last().body.edits).toEqual([{ path: "rows.tilt_deg", text: "31" }]);
  });

  it("wrongly is marked at its field; the rest is taken without it and it is not sent again", async () => {
    const job = await opened();
    job.type("rows.tilt_deg", "steep");
    job.type("rows.rows", "2");
    await settled();
    last().refuse({
      problems: [{ path: "rows.tilt_deg", label: "Tilt", message: "is not an angle", allowed: "0 to 90", remedy: "" }],
    });
    await settled();
    expect(job.snapshot().failures["rows.tilt_deg"]).toMatchObject({ message: "is not an angle", text: "steep" });
    expect(last().body.edits).toEqual([{ path: "rows.rows", text: "2" }]);
    last().answer(view("rows"));
    await settled();
    expect(job.snapshot().typed).toEqual({ "rows.tilt_deg": "steep" });
    expect(calls).toHaveLength(2);
    job.type("rows.tilt_deg", "40");
    await settled();
    last().answer(view("rows"));
    await settled();
    expect(job.snapshot()).toMatchObject({ typed: {}, failures: {} });
  });

  it("to a list's thing is marked by the field inside it", async () => {
    const job = await opened("site");
    job.type("site.surveys.0.readings", "1, 2");
    await settled();
    last().refuse({
      problems: [
        {
          path: "site.surveys.0.readings.0",
          label: "Readings",
          message: "needs three numbers",
          allowed: "",
          remedy: "",
        },
      ],
    });
    await settled();
    expect(job.snapshot().failures["site.surveys.0.readings"]?.message).toBe("needs three numbers");
  });

  it("is kept while the server is away, and sent when it is back", async () => {
    const job = await opened();
    job.type("rows.rows", "2");
    await settled();
    last().fail();
    await settled();
    expect(job.snapshot().notice).toContain("kept here");
    expect(JSON.parse(localStorage.getItem("furrow.typed.Wren.7") ?? "")).toEqual({
      typed: { "rows.rows": "2" },
      on: { "rows.rows": 1 },
      version: 9,
    });
    await vi.advanceTimersByTimeAsync(2100);
    expect(calls).toHaveLength(2);
    last().answer(view("rows"));
    await settled();
    expect(job.snapshot()).toMatchObject({ typed: {}, notice: "" });
  });

  it("in a tab that was closed is sent when the job is opened again", async () => {
    localStorage.setItem(
      "furrow.typed.Wren.7",
      JSON.stringify({ typed: { "rows.rows": "3" }, on: { "rows.rows": 1 } }),
    );
    const job = new JobStore("7", "Wren");
    void job.open("rows");
    await settled();
    last().answer(view("rows"));
    await settled();
    expect(last().body).toMatchObject({ step: 1, edits: [{ path: "arrays.1.rows.rows", text: "3" }] });
  });

  it("by another account in this browser is not sent", async () => {
    localStorage.setItem("furrow.typed.Tobin.7", JSON.stringify({ typed: { "rows.rows": "3" }, on: {} }));
    await opened();
    expect(calls).toHaveLength(0);
  });
});

describe("the step an edit was made on", () => {
  const on = (position: number) => view("site", { draft: { ...view("site").draft, position } });

  it("is the one on the screen while it was typed, or that our own fields brought", async () => {
    const job = await opened("site");
    job.type("site.features.1.name", "oak");
    await settled();
    expect(last().body.step).toBe(1);
    job.type("site.features.1.name", "oak 2");
    await settled();
    last().answer(on(2));
    await settled();
    expect(last().body).toMatchObject({ step: 2, edits: [{ path: "site.features.1.name", text: "oak 2" }] });
  });

  it("stays the old one where another's change came between", async () => {
    const job = await opened("site");
    void job.reload();
    job.type("site.features.1.name", "oak");
    await vi.advanceTimersByTimeAsync(1);
    last().answer(on(5));
    await settled();
    await settled();
    expect(last().body.step).toBe(1);
  });

  it("of something taken out is the one that has come by then: an id is nobody else's", async () => {
    const job = await opened("site");
    void job.change([{ path: "site.features.0", text: "" }]);
    void job.change([{ path: "site.features.1", text: "" }]);
    await settled();
    expect(last().body.step).toBe(1);
    last().answer(on(2));
    await settled();
    expect(last().body.step).toBe(2);
  });

  it("when both changed the same shows what it became, and what was typed stays marked", async () => {
    const job = await opened("site");
    job.type("site.frost_depth_m", "30 in");
    await settled();
    last().refuse({
      status: 409,
      clashes: [
        { path: "site.frost_depth_m", label: "Frost depth", base: "", mine: "", theirs: "40 in", together: false },
      ],
    });
    await settled();
    expect(last().method).toBe("GET");
    last().answer(on(4));
    await settled();
    expect(job.snapshot().typed).toEqual({ "site.frost_depth_m": "30 in" });
    expect(job.snapshot().failures["site.frost_depth_m"]?.message).toContain("now 40 in");
  });

  it("of a field whose both sides were told is the one that stands when it is sent again", async () => {
    const job = await opened("site");
    job.type("site.frost_depth_m", "30 in");
    await settled();
    last().refuse({
      status: 409,
      clashes: [
        { path: "site.frost_depth_m", label: "Frost depth", base: "", mine: "", theirs: "40 in", together: false },
      ],
    });
    await vi.advanceTimersByTimeAsync(1);
    // Typed on before the screen was drawn anew.
    job.type("site.frost_depth_m", "31 in");
    last().answer(on(4));
    await settled();
    await settled();
    expect(last().body).toMatchObject({ step: 4, edits: [{ path: "site.frost_depth_m", text: "31 in" }] });
    last().answer(on(5));
    await settled();
    expect(job.snapshot()).toMatchObject({ typed: {}, failures: {} });
  });
});

describe("undo", () => {
  it("waits for what is on its way and goes from wherever the draft then stands", async () => {
    const job = await opened();
    job.type("rows.rows", "2");
    void job.step(-1);
    await settled();
    expect(calls.map(({ method, path }) => `${method} ${path.split("/").pop()}`)).toEqual(["POST edits"]);
    const steps = [0, 1, 2, 3].map((number) => ({ number, made_at: "", label: "" }));
    last().answer(view("rows", { draft: { ...view("rows").draft, steps, position: 3 } }));
    await settled();
    expect(last().path).toBe("/api/jobs/7/step");
    expect(last().body.step).toBe(2);
  });
});

describe("answers", () => {
  it("run one after another, and that of a stage that was left is not shown", async () => {
    const job = await opened();
    job.type("rows.rows", "2");
    await settled();
    void job.open("site");
    await settled();
    expect(calls).toHaveLength(1);
    last().answer(view("rows"));
    await settled();
    expect(job.snapshot().view?.stage.stage).toBe("rows");
    last().answer(view("site"));
    await settled();
    expect(job.snapshot().view?.stage.stage).toBe("site");
  });

  it("that are slow say so and can be cancelled; what was typed stays", async () => {
    const job = await opened();
    job.type("rows.rows", "2");
    await settled();
    expect(job.snapshot().slow).toBe(false);
    await vi.advanceTimersByTimeAsync(600);
    expect(job.snapshot().slow).toBe(true);
    job.cancel();
    await settled();
    expect(job.snapshot()).toMatchObject({ slow: false, notice: "", typed: { "rows.rows": "2" } });
  });

  it("that change nothing leave the view the very same", async () => {
    const job = await opened();
    const before = job.snapshot().view;
    job.type("rows.rows", "2");
    await settled();
    last().answer(view("rows"));
    await settled();
    expect(job.snapshot().view).toBe(before);
  });
});

describe("units", () => {
  it("chosen for a job are remembered on this machine", async () => {
    const job = await opened();
    job.setUnits("metric");
    await settled();
    expect(last().path).toContain("units=metric");
    expect(new JobStore("7", "Wren").snapshot().view).toBeNull();
    expect(localStorage.getItem("furrow.units.7")).toBe("metric");
    // Who changes what the job is written in wants to see it so.
    job.type("site.display_units", "us");
    expect(localStorage.getItem("furrow.units.7")).toBe("us");
  });
});

describe("what another tab or person did", () => {
  const moved = (position: number, more: object = {}) =>
    view("rows", { draft: { ...view("rows").draft, position, ...more } });

  it("is looked for now and then, shown, and told for a while", async () => {
    const job = await opened();
    const end = job.watch();
    await vi.advanceTimersByTimeAsync(4000);
    calls.at(-1)?.answer(moved(2));
    await settled();
    expect(job.snapshot().view?.draft.position).toBe(2);
    expect(job.snapshot().news).toContain("changed elsewhere");
    end();
    await vi.advanceTimersByTimeAsync(6000);
    expect(job.snapshot().news).toBe("");
    const asked = calls.length;
    await vi.advanceTimersByTimeAsync(20_000);
    expect(calls.length).toBe(asked);
  });

  it("says who saved, and nothing where nothing changed", async () => {
    const job = await opened();
    const end = job.watch();
    const before = job.snapshot();
    await vi.advanceTimersByTimeAsync(4000);
    calls.at(-1)?.answer(view("rows"));
    await settled();
    expect(job.snapshot()).toBe(before);
    await vi.advanceTimersByTimeAsync(4000);
    calls.at(-1)?.answer(moved(1, { head: 2, head_author: "Tobin" }));
    await settled();
    expect(job.snapshot().news).toBe("Tobin saved revision 2.");
    end();
  });

  it("is not asked for while something is typed, and a lost answer is no news", async () => {
    const job = await opened();
    const end = job.watch();
    job.type("rows.rows", "2");
    await settled();
    const asked = calls.length;
    await vi.advanceTimersByTimeAsync(3000);
    expect(calls.length).toBe(asked);
    calls.at(-1)?.answer(view("rows"));
    await settled();
    await vi.advanceTimersByTimeAsync(4000);
    calls.at(-1)?.fail();
    await settled();
    expect(job.snapshot().news).toBe("");
    expect(job.snapshot().notice).toBe("");
    end();
  });
});
