/** Runs of single records: small, many, and alike. Several are planned, made and proved at once, and written down together. */
import { groupedBy } from "@corbix/core/common";
import { isRecordOccasion, onceOf } from "@corbix/core/delivery";
import type { Report } from "@corbix/core/report";
import type { Proof } from "@corbix/core/run";
import { say } from "@corbix/core/words";
import { deed, noteActions } from "../../audit/audit.js";
import { announce } from "../../events/events.js";
import { finishRuns } from "../../outbox/record-outcome.js";
import type { Context } from "../../process/context.js";
import {
  addParcels,
  addSteps,
  deliveredGroups,
  endSteps,
  type HandedStep,
  holdSteps,
  keepMade,
  moveRunsToHeld,
  queueHeld,
  type RunRow,
  readRecordEditions,
  runsById,
  setReleased,
} from "../../records/index.js";
import { factsWith, reportOfRun, senderAddress } from "../run-records.js";
import { fillParcel, type Making, madeRows, NOTHING_BESIDE, rowsOfParcel, storeFilled } from "./make-step.js";
import { type FoundPlan, findPlan, type PlanSources, parcelRow, plannedFields, readSources } from "./plan-step.js";
import { proofOf, tellHeld } from "./prove-step.js";

/** A record that comes to more parcels is no small one. */
const MOST_PARCELS = 8;

/**
 * Does all steps of runs whose plan was handed out. Gives back the steps of those that go on one by one, as any run does: what is more
 * than a record, and whatever does not work out, of which nothing is written here.
 */
export async function recordSteps(context: Context, steps: readonly HandedStep[]): Promise<readonly HandedStep[]> {
  const runs = await runsById(
    context.database,
    steps.map((step) => step.run),
  );
  const alike = groupedBy(runs, ({ report, reportVersion, recipientListId, templates, editions }) =>
    JSON.stringify([report, reportVersion, recipientListId, templates, editionsBeside(editions)]),
  );
  const done = new Set<string>();
  for (const some of alike.values()) {
    try {
      for (const id of await doAlike(context, steps, some)) done.add(id);
    } catch (error) {
      context.log.warn({ runs: some.map(({ id }) => id), error: String(error) }, "records go one by one");
    }
  }
  return steps.filter(({ run }) => !done.has(run));
}

/** Editions of the datasets beside the record's own, which is one of those below zero. */
function editionsBeside(editions: RunRow["editions"]): (readonly [string, number])[] {
  return Object.entries(editions)
    .filter(([, number]) => number >= 0)
    .sort();
}

/** Runs of one version of a report with the same list, templates and data beside. Gives those that were done. */
async function doAlike(context: Context, steps: readonly HandedStep[], runs: readonly RunRow[]): Promise<string[]> {
  const [first] = runs;
  const report = first && (await reportOfRun(context, first));
  const small = report ? runs.filter((run) => isSmall(run, report)) : [];
  if (!report || small.length === 0) return [];
  const sources = await readSources(context, first, report);
  const sender = await senderAddress(context, report);
  const rows = await readRecordEditions(
    context.database,
    small.map(({ editionId }) => editionId),
  );
  const filled: FilledRun[] = [];
  for (const run of small) {
    const own = rows.get(run.editionId);
    const one =
      own && (await fillRun(context, run, sources, { ...own, facts: factsWith(context, run, report, sender) }));
    if (one) filled.push(one);
  }
  const proved = await prove(context, report, sources, filled);
  return keep(context, report, steps, proved);
}

/** Whether a run is over a single record, and nothing of it hangs on what other runs had. */
function isSmall(run: RunRow, report: Report): boolean {
  return (
    run.state === "planning" &&
    isRecordOccasion(run.occasion) &&
    run.rehearsalTo === null &&
    onceOf(report).kind !== "row" &&
    Object.keys(report.lines).length === 0 &&
    report.delivery.approvals <= 1 &&
    !Object.values(report.files).some(({ grows }) => grows)
  );
}

interface FilledRun {
  readonly run: RunRow;
  readonly parcels: readonly (Making & {
    readonly parcel: ReturnType<typeof parcelRow>;
    readonly filled: ReturnType<typeof fillParcel>;
  })[];
}

/** Plans a run and makes its files; nothing where that is for the steps to tell. */
async function fillRun(
  context: Context,
  planning: RunRow,
  sources: PlanSources,
  rows: Parameters<typeof findPlan>[3],
): Promise<FilledRun | undefined> {
  try {
    const found = await findPlan(context, planning, sources, rows);
    if (!isPlain(found)) return undefined;
    const { plan, maker, enclosures } = found;
    const run = { ...planning, ...plannedFields(found) };
    const common = { run, report: sources.report, maker, facts: rows.facts };
    const parcels = plan.parcels.map((parcel) => {
      const making = { ...common, parcel: parcelRow(run, plan, parcel, enclosures) };
      return { ...making, filled: fillParcel(context, making, rowsOfParcel(making), NOTHING_BESIDE) };
    });
    return { run, parcels };
  } catch (error) {
    context.log.debug({ run: planning.id, error: String(error) }, "record goes by itself");
    return undefined;
  }
}

function isPlain({ plan, caught, enclosures }: FoundPlan): boolean {
  const few = plan.parcels.length > 0 && plan.parcels.length <= MOST_PARCELS;
  const enclosed = [...enclosures.files.values()].flat();
  return few && plan.further.length + caught.length + enclosed.length + enclosures.leftOut.size === 0;
}

interface ProvedRun extends FilledRun {
  readonly rows: readonly ReturnType<typeof madeRows>[];
  readonly proof: Proof;
}

async function prove(
  context: Context,
  report: Report,
  { senders: { identity } }: PlanSources,
  filled: readonly FilledRun[],
): Promise<ProvedRun[]> {
  const all = filled.flatMap(({ parcels }) => parcels);
  const stored = (
    await storeFilled(
      context,
      all.map((one) => one.filled),
    )
  ).values();
  const ids = filled.map(({ run }) => run.id);
  const keys = [...new Set(all.map(({ parcel }) => parcel.groupKey))];
  const known = await deliveredGroups(context.database, report.report, ids, keys);
  const rowed = filled.map((one) => ({
    ...one,
    rows: one.parcels.map((making) => {
      const next = stored.next();
      if (next.done) throw new Error("not all that was filled was stored");
      return madeRows(context, making, next.value);
    }),
  }));
  const proving = rowed.map(async ({ rows, ...one }): Promise<ProvedRun> => {
    const parcels = one.parcels.map(({ parcel }, at) => {
      const { findings = [], files = [], messages = [] } = rows[at] ?? {};
      const made = { ...parcel, state: "made" as const, error: null, findings };
      return {
        parcel: made,
        files: files.map(({ row }) => row),
        messages: messages.filter((message) => !("way" in message)),
      };
    });
    return { ...one, rows, proof: await proofOf(context, one.run, { parcels, known, identity }) };
  });
  // That there is nothing to send is told by the steps.
  return (await Promise.all(proving)).filter(
    ({ proof }) => !proof.findings.some(({ code }) => code === "nothing-to-send"),
  );
}

/** Writes runs down with all that was made for them, as far as their steps are still this process's own: all of them or nothing. */
async function keep(
  context: Context,
  report: Report,
  steps: readonly HandedStep[],
  proved: readonly ProvedRun[],
): Promise<string[]> {
  if (proved.length === 0) return [];
  const { database } = context;
  const by = say().serviceRun.reportItself();
  const isLetGo = ({ proof }: ProvedRun): boolean => !report.delivery.hold && proof.mayBeReleased;
  const kept = await database.transaction(async (transaction) => {
    const asked = steps.filter((step) => proved.some(({ run }) => run.id === step.run));
    const held = await holdSteps(database, asked, "planning", transaction);
    const own = proved.filter(({ run }) => held.has(run.id));
    const ids = own.map(({ run }) => run.id);
    if (ids.length === 0) return own;
    const parcels = own.flatMap(({ parcels }) => parcels.map(({ parcel }) => parcel));
    const rows = own.flatMap((one) => one.rows);
    const added = await addParcels(database, parcels, transaction);
    await keepMade(
      database,
      added.flatMap((id, at) => (rows[at] ? [{ id, ...rows[at] }] : [])),
      transaction,
    );
    await moveRunsToHeld(
      database,
      own.map(({ run, proof }) => ({ ...run, proof })),
      transaction,
    );
    await addSteps(database, ids, [{ name: "make 1" }, { name: "prove" }], transaction);
    await endSteps(database, ids, ["plan", "make 1", "prove"], transaction);
    const released = own.filter(isLetGo).map(({ run }) => run.id);
    if (released.length === 0) return own;
    await setReleased(database, released, { by, hasFigures: report.figures !== undefined }, transaction);
    await queueHeld(database, released, transaction);
    return own;
  });
  const released = kept.filter(isLetGo).map(({ run }) => run.id);
  await noteActions(
    database,
    released.map((subject) => deed(by, "run released", subject)),
  );
  await announce(database, ...kept.map(({ run }) => ({ kind: "run" as const, subject: run.id })));
  // A run without a message is done at once.
  await finishRuns(
    context,
    released.filter((id) =>
      kept.some((one) => one.run.id === id && one.rows.every(({ messages }) => messages.length === 0)),
    ),
  );
  for (const one of kept) if (!isLetGo(one)) await tellHeld(context, one.run, report, one.proof);
  return kept.map(({ run }) => run.id);
}
