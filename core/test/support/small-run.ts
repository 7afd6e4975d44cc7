/** A small run of a made-up report: its plan, and each group's parcel as both the service and the command make it. */
import { plainPeriods } from "@corbix/core/calendar";
import { readRecipients } from "@corbix/core/recipients";
import { parseReport } from "@corbix/core/report";
import { furtherOf, makeParcel, type ParcelWork, type PlanInput, planRun, type RunFacts, Seal } from "@corbix/core/run";
import { loadTable } from "@corbix/core/table";
import { openFonts } from "@corbix/fonts";
import { Document, Packer, Paragraph } from "docx";

/** 2026-11-02, the day on which small runs run. */
export const RUN_DAY = 46_328;

export interface SmallRun {
  /** The report below its name, title and data. */
  readonly report: string;
  readonly rows: string;
  readonly others?: Readonly<Record<string, string>>;
  readonly people?: string;
  readonly templates?: Readonly<Record<string, Uint8Array>>;
  readonly period?: string;
  readonly more?: Partial<PlanInput>;
}

const table = (csv: string, name: string) => loadTable(Buffer.from(csv), `${name}.csv`).table;

export function inputOf({ report, rows, others = {}, people, templates = {}, period, more }: SmallRun): PlanInput {
  const facts: RunFacts = {
    id: "run-1",
    date: RUN_DAY,
    sender: "office@lifts.example",
    locale: "en-GB",
    ...(period ? { period: plainPeriods("month").parse(period) } : {}),
  };
  return {
    report: parseReport(`report: small\ntitle: Small\ndata: visits\n${report}`, "small.yaml"),
    table: table(rows, "visits"),
    others: new Map(Object.entries(others).map(([name, csv]) => [name, table(csv, name)])),
    recipients: people === undefined ? [] : readRecipients(table(people, "people"), "people.csv").recipients,
    templates: new Map(Object.entries(templates)),
    facts,
    ...more,
  };
}

export const planOf = (run: SmallRun) => planRun(inputOf(run)).plan;

/** The parcels of a run by the labels of their groups. */
export function parcelsOf(run: SmallRun, more: Partial<ParcelWork> = {}) {
  const input = inputOf(run);
  const { plan, maker } = planRun(input);
  const seal = plan.sealedNames && new Seal(plan.sealedNames);
  const fonts = openFonts();
  return new Map(
    plan.parcels.map((parcel) => [
      parcel.group.label,
      makeParcel({
        maker,
        table: plan.table,
        group: parcel.group,
        place: { number: parcel.number, count: plan.parcels.length, further: furtherOf(plan.further, parcel.group) },
        recipients: parcel.recipients.map((one) => one),
        files: parcel.files,
        facts: input.facts,
        fonts,
        seal: seal && { seal, own: parcel.group.label },
        delivery: { report: "small", occasion: input.facts.period?.key ?? "e1", domain: "lifts.example" },
        ...more,
      }),
    ]),
  );
}

/** A document of paragraphs. */
export const letter = async (...lines: readonly string[]): Promise<Uint8Array> =>
  new Uint8Array(
    await Packer.toBuffer(new Document({ sections: [{ children: lines.map((text) => new Paragraph(text)) }] })),
  );
