import { tick } from "svelte";
import { beforeEach, describe, expect, inject, it, vi } from "vitest";
import { render } from "vitest-browser-svelte";
import { stringify } from "yaml";
import type { Path } from "../../src/lib/report/definition.js";
import { beginning, kindOf, type Schema, shapeOf, shapesOf, valuesOf } from "../../src/lib/report/schema.js";
import { type StepKey, stepOf } from "../../src/lib/report/steps.js";
import AskStep from "../../src/parts/build/steps/AskStep.svelte";
import CheckStep from "../../src/parts/build/steps/CheckStep.svelte";
import DataStep from "../../src/parts/build/steps/DataStep.svelte";
import FilesStep from "../../src/parts/build/steps/FilesStep.svelte";
import GroupsStep from "../../src/parts/build/steps/GroupsStep.svelte";
import MessageStep from "../../src/parts/build/steps/MessageStep.svelte";
import PeopleStep from "../../src/parts/build/steps/PeopleStep.svelte";
import RowsStep from "../../src/parts/build/steps/RowsStep.svelte";
import WhenStep from "../../src/parts/build/steps/WhenStep.svelte";
import { answering, COLUMNS, controlsOf, draftOf, KNOWN } from "./support.js";

const schema = JSON.parse(inject("reportSchema")) as Schema;

/** Leaves of the schema: fields that hold a value of their own, with the shapes that lead there. */
function leaves(one: Schema, path: Path = []): { path: Path; schema: Schema }[] {
  switch (kindOf(one)) {
    case "fields":
      return Object.entries(one.properties ?? {}).flatMap(([name, inner]) => leaves(inner, [...path, name]));
    case "entries":
      return leaves(one.additionalProperties as Schema, [...path, "own"]);
    case "list":
      return leaves(one.items ?? {}, [...path, 0]);
    case "choice":
      return shapesOf(one).flatMap((shape) => leaves(shape, path));
    default:
      return [{ path, schema: one }];
  }
}

const BASE = { report: "x", title: "X", data: "visits", split: "Site" };
/** What has to be there for a field to be looked at, where the step asks for it first. */
const AROUND: Readonly<Record<string, object>> = {
  message: { message: { subject: "S", body: { text: "T" } } },
  schedule: { schedule: { rule: "FREQ=WEEKLY;BYDAY=FR", at: "07:15", zone: "Europe/Zurich", from: "2026-01-01" } },
  files: { files: { own: { name: "n", template: "statement.xlsx" } } },
  table: { files: { own: { name: "n", table: {} } } },
  list: { files: { own: { name: "n", list: { form: "delimited" } } } },
  event: { files: { own: { name: "n", list: { form: "icalendar", event: { title: "t", begins: "line.day" } } } } },
  card: { files: { own: { name: "n", list: { form: "vcard", card: { name: "n" } } } } },
  slides: { files: { own: { name: "n", slides: { list: [{ title: "T" }] } } } },
  languages: {
    message: { subject: "S", body: { text: "T" }, languages: { own: { subject: "U", body: { text: "V" } } } },
  },
  enquiry: { enquiry: { fields: { own: { choose: "Fee" } } } },
  to: { delivery: { to: { column: "Site" } } },
};

/** Values of fields that do not take any text, such as the name of a column. */
const FITTING: Readonly<Record<string, string>> = {
  split: "Fee",
  "bring.0.columns.0": "Fee",
  "split.0": "Fee",
  "split.row.0": "Fee",
  "files.own.table.columns.0": "Fee",
  "files.own.table.columns.0.column": "Fee",
  "files.own.table.colour": "123456",
  "files.own.slides.colour": "123456",
  "schedule.calendar": "office",
  "period.calendar": "office",
  "enquiry.page": "statement",
  "schedule.rule": "FREQ=DAILY",
  "schedule.notAfter": "04:44",
  "startOnData.notBefore": "05:55",
  "schedule.at": "03:33",
  "schedule.from": "2026-03-03",
  "schedule.until": "2026-04-04",
};

/** A value with a field set, and what the schema asks for beside it. */
function withField(one: Schema, before: unknown, path: Path, value: unknown): unknown {
  if (path.length === 0) return value;
  const [first, ...rest] = path;
  const shapes = shapesOf(one);
  if (shapes.length > 0) {
    const shape = shapes.find((each) => reaches(each, path));
    return withField(
      shape ?? {},
      shapeOf(one, before) === shapes.indexOf(shape ?? {}) ? before : undefined,
      path,
      value,
    );
  }
  if (typeof first === "number") return [withField(one.items ?? {}, undefined, rest, value)];
  const inner = one.properties?.[first] ?? (one.additionalProperties as Schema);
  const begun = (before ?? (one.properties ? beginning(one) : {})) as Record<string, unknown>;
  return { ...begun, [first]: withField(inner, begun[first], rest, value) };
}

function reaches(one: Schema, [first, ...rest]: Path): boolean {
  if (first === undefined) return shapesOf(one).length === 0;
  if (shapesOf(one).length > 0) return shapesOf(one).some((shape) => reaches(shape, [first, ...rest]));
  const inner =
    typeof first === "number"
      ? one.items
      : (one.properties?.[first] ??
        (typeof one.additionalProperties === "object" ? one.additionalProperties : undefined));
  return inner !== undefined && (rest.length === 0 || reaches(inner, rest));
}

const PARTS: Readonly<Record<StepKey, { part: unknown; props: object }>> = {
  data: { part: DataStep, props: { schema, known: KNOWN, dataset: undefined, onloaded: () => {} } },
  rows: {
    part: RowsStep,
    props: { known: KNOWN, columns: [...COLUMNS], datasets: [], valuesOf: () => [], saved: undefined },
  },
  ask: { part: AskStep, props: { schema, known: KNOWN, columns: [...COLUMNS], name: "x" } },
  groups: { part: GroupsStep, props: { name: "x", columns: [...COLUMNS], profiles: new Map(), edition: undefined } },
  files: { part: FilesStep, props: { schema, known: KNOWN, ontemplate: async () => {} } },
  people: { part: PeopleStep, props: { schema, known: KNOWN, saved: undefined } },
  message: { part: MessageStep, props: { schema, known: KNOWN, saved: undefined, ontemplate: async () => {} } },
  when: { part: WhenStep, props: { schema, known: KNOWN, saved: undefined } },
  check: {
    part: CheckStep,
    props: { name: "x", savedAs: undefined, isSaving: false, onsave: () => {}, onrun: () => {}, ondiscard: () => {} },
  },
};

const known = new Map<string, Promise<string[]>>();
/** Of what is asked for again and again, such as the report before a field is set. */
function controlsOnce(definition: unknown, step: StepKey): Promise<string[]> {
  const key = `${step} ${JSON.stringify(definition)}`;
  const found = known.get(key) ?? controlsFor(definition, step);
  known.set(key, found);
  return found;
}

/** Fields of formulas come when they are needed. */
const formulasIn = (definition: unknown): number => {
  const { prepare = [] } = definition as { prepare?: object[] };
  return [definition as object, ...prepare].flatMap((one) => ["add", "totals"].filter((key) => key in one)).length;
};

async function controlsFor(definition: unknown, step: StepKey): Promise<string[]> {
  const draft = await draftOf(stringify(definition));
  const { part, props } = PARTS[step];
  const screen = await render(part as never, { draft, ...props } as never);
  // Parts that come when they are needed, such as the field of a formula.
  await tick();
  if (screen.container.querySelector("[role=tablist][aria-label=Languages]"))
    await screen.getByRole("tab").all().at(-1)?.click();
  await vi.waitUntil(() => screen.container.querySelectorAll(".cm-content").length >= formulasIn(definition));

  const found = controlsOf(screen.container);
  await screen.unmount();
  return found;
}

/** A value that stands nowhere else. */
function sentinel(one: Schema, at: number): unknown {
  switch (kindOf(one)) {
    case "number":
      return Math.min(one.maximum ?? 1_000, Math.max(one.minimum ?? 0, 7));
    case "truth":
      return !(one.default ?? false);
    case "pick":
      return valuesOf(one).at(-1);
    case "fixed":
      return one.const;
    default:
      return one.pattern === undefined ? `zq${at}x` : "";
  }
}

/** The name in addresses is chosen when a report is begun, and stays. */
const FIXED_LATER = new Set(["report"]);
const fields = leaves(schema).filter(({ path }) => !FIXED_LATER.has(path.join(".")));

describe("every field of a definition", () => {
  beforeEach(() => {
    answering();
  });

  it("is there to be looked through", () => {
    expect(fields.length).toBeGreaterThan(150);
  });

  it.each(fields.map((one, at) => [one.path.join("."), one, at] as const))(
    "%s is shown by a control of its step",
    async (name, { path, schema: own }, at) => {
      const step = stepOf(path.slice(0, 2).join(", "));
      // A slide has a table of its own kind.
      const shownFor = path.includes("slides") ? ["slides"] : path;
      const around = shownFor.map((part) => AROUND[String(part)]).findLast(Boolean) ?? {};
      const before = { ...BASE, ...around };
      const value = FITTING[name] ?? sentinel(own, at);
      const now = withField(schema, before, path, value) as Record<string, unknown>;
      const shown = await controlsFor(now, step);
      if (kindOf(own) === "text" && value !== "" && FITTING[name] === undefined)
        expect(shown.join("\n"), name).toContain(value);
      else expect(shown, name).not.toEqual(await controlsOnce(before, step));
    },
  );
});
