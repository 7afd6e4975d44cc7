/** A report for an auditor of one run: who prepared it, who let it go, what went to whom, with digests; as a PDF for keeping. */
import type { Block } from "@corbix/core/audit";
import { bytesFromText, sha256 } from "@corbix/core/common";
import { templatesOf } from "@corbix/core/report";
import { say } from "@corbix/core/words";
import { fontFolder } from "../library/custom-fonts.js";
import { getReportVersion } from "../library/definitions.js";
import type { Context } from "../process/context.js";
import { languageNow } from "../process/languages.js";
import {
  type ActionRow,
  checkTrail,
  editionsOfRun,
  listOfRun,
  type ReportVersionRow,
  type RunRow,
  templatesOfRun,
  trailOf,
  type WentRow,
  whatWent,
} from "../records/index.js";
import { labelOfPeriod } from "../run/period-label.js";
import { getRun } from "../run/run-records.js";

/** `by`: for whom it is made. Throws `NOT_FOUND`. */
export async function auditOfRun(context: Context, runId: string, by: string): Promise<Uint8Array> {
  const run = await getRun(context, runId);
  const report = await getReportVersion(context, run.report, run.reportVersion);
  const title = say().audit.title({
    run: run.id,
    title: report.definition.title,
    period: labelOfPeriod(run.period, report.definition, run.calendar),
  });
  const blocks: Block[] = [
    { kind: "heading", level: 1, text: title },
    { kind: "text", text: say().audit.madeAt({ at: stamp(context.now()), by }) },
    ...(run.rehearsalTo === null ? [] : [text(say().audit.rehearsal({ to: run.rehearsalTo }))]),
    ...(await madeFrom(context, run, report)),
    ...whoLetGo(run, report),
    ...whatWasProved(run),
    ...(await whatWasDone(context, run)),
    ...(await whatWentOut(context, run)),
  ];
  const language = languageNow();
  return context.threads.isolated("auditPages", { blocks, title, language, fonts: fontFolder(context.settings) });
}

const heading = (words: string): Block => ({ kind: "heading", level: 2, text: words });
const text = (words: string): Block => ({ kind: "text", text: words });

async function madeFrom(context: Context, run: RunRow, report: ReportVersionRow): Promise<Block[]> {
  const words = say().audit;
  const { database } = context;
  const { name, number, note } = report;
  const saved = words.versionBy({ name, number, by: report.createdBy, at: stamp(report.createdAt) });
  const list = run.recipientListId === null ? undefined : await listOfRun(database, run.recipientListId);
  const editions = await editionsOfRun(database, run);
  const templates = await templatesOfRun(database, run, templatesOf(report.definition));
  const facts: (readonly [string, string])[] = [
    [
      words.report(),
      [saved, ...(note ? [words.savedNote({ note })] : []), sha256(bytesFromText(report.source))].join("\n"),
    ],
    ...editions.map((one) => [words.data(), words.editionBy({ ...one, rows: one.rowCount, ...signed(one) })] as const),
    ...(list ? [[words.recipients(), words.listBy({ ...list, ...signed(list) })] as const] : []),
    ...templates.map((one) => [words.template(one), words.templateBy({ ...one, ...signed(one) })] as const),
  ];
  return [heading(words.madeFrom()), { kind: "facts", facts }];
}

function signed(one: { readonly createdBy: string; readonly createdAt: Date }) {
  return { by: one.createdBy, at: stamp(one.createdAt) };
}

function whoLetGo(run: RunRow, { definition }: ReportVersionRow): Block[] {
  const words = say().audit;
  const { approvals, apart } = definition.delivery;
  const released = run.releasedAt
    ? words.byAt({ by: run.releasedBy ?? "", at: stamp(run.releasedAt) })
    : words.notYet();
  const facts: (readonly [string, string])[] = [
    [words.started(), words.byAt({ by: run.startedBy, at: stamp(run.createdAt) })],
    [words.held(), words.approvalsWanted({ count: approvals, apart })],
    ...run.approvals.map(({ by, at, digest = null, groups }) => {
      const given = { by, at: stamp(new Date(at)), groups: groups?.length ?? null, digest };
      return [words.approvalBy(), words.approvalOf(given)] as const;
    }),
    [words.released(), released],
    [words.finished(), run.finishedAt ? stamp(run.finishedAt) : words.notYet()],
  ];
  return [heading(words.who()), { kind: "facts", facts }];
}

function whatWasProved({ proof }: RunRow): Block[] {
  const words = say().audit;
  if (!proof) return [heading(words.proof()), text(words.noProof())];
  const told = proof.findings;
  return [
    heading(words.proof()),
    ...proof.sentences.map(text),
    { kind: "facts", facts: [[words.proofDigest(), sha256(bytesFromText(JSON.stringify(proof)))]] },
    ...(told.length === 0
      ? []
      : [
          {
            kind: "table" as const,
            columns: [
              { title: words.kind(), share: 1 },
              { title: words.where(), share: 3 },
              { title: words.finding(), share: 8 },
            ],
            rows: told.map(({ severity, where, what }) => [words.severity({ severity }), where, what]),
          },
        ]),
  ];
}

async function whatWasDone(context: Context, run: RunRow): Promise<Block[]> {
  const words = say().audit;
  const [entries, check] = [await trailOf(context.database, run.id), await checkTrail(context.database)];
  return [
    heading(words.deeds()),
    {
      kind: "table",
      columns: [
        { title: words.at(), share: 3 },
        { title: words.by(), share: 3 },
        { title: words.deed(), share: 6 },
        { title: words.entry(), share: 7, fine: true },
      ],
      rows: entries.map((entry) => [stamp(entry.at), entry.who, deedOf(entry), `${entry.id}\n${entry.hash}`]),
    },
    text(
      check.brokenAt === null
        ? words.trailWhole({ entries: check.entries, head: check.head ?? "" })
        : words.trailBroken({ at: check.brokenAt }),
    ),
  ];
}

function deedOf({ what, facts }: ActionRow): string {
  const told = Object.entries(facts).filter(([, value]) => value !== null && value !== undefined);
  return [
    what,
    ...told.map(([name, value]) => `${name}: ${typeof value === "string" ? value : JSON.stringify(value)}`),
  ].join("\n");
}

async function whatWentOut(context: Context, run: RunRow): Promise<Block[]> {
  const words = say().audit;
  const rows: string[][] = [];
  let [messages, delivered] = [0, 0];
  for await (const some of whatWent(context.database, run.id))
    for (const one of some) {
      if (one.state !== null) messages++;
      if (one.sentAt !== null) delivered++;
      rows.push([String(one.number), one.label, peopleOf(one), becameOf(one), digestsOf(one)]);
    }
  return [
    heading(words.whatWent()),
    text(words.counted({ messages, delivered })),
    {
      kind: "table",
      columns: [
        { title: words.number(), share: 1 },
        { title: words.group(), share: 4 },
        { title: words.to(), share: 6 },
        { title: words.became(), share: 5 },
        { title: words.files(), share: 9, fine: true },
      ],
      rows,
    },
  ];
}

function peopleOf({ envelope, way }: WentRow): string {
  const words = say().audit;
  const list = (all: readonly { readonly address: string }[]): string => all.map(({ address }) => address).join(", ");
  if (way !== null) return words.way({ way });
  if (!envelope) return "";
  return [
    list(envelope.to),
    ...(envelope.cc.length > 0 ? [words.cc({ addresses: list(envelope.cc) })] : []),
    ...(envelope.bcc.length > 0 ? [words.bcc({ addresses: list(envelope.bcc) })] : []),
  ].join("\n");
}

function becameOf({ state, leftOut, sentAt, response, again, againReason }: WentRow): string {
  const words = say().audit;
  if (state === null) return leftOut === null ? words.noMessage() : `${words.leftOut()}: ${leftOut}`;
  return [
    sentAt ? `${words.state({ state })}, ${stamp(sentAt)}` : words.state({ state }),
    ...(response ? [response] : []),
    ...(again > 0 ? [words.again({ number: again, why: againReason ?? "" })] : []),
  ].join("\n");
}

function digestsOf({ messageId, sha256: bytes, packed, files, enclosed, state }: WentRow): string {
  return [
    ...(state === null || bytes === null ? [] : [`${say().audit.message()} ${messageId ?? ""}`, bytes]),
    ...(packed === null ? [] : ["zip", packed]),
    ...files.flatMap((file) => [file.path, file.sha256]),
    ...enclosed.flatMap((file) => [file.name, file.sha256]),
  ].join("\n");
}

/** A moment for people and machines alike. */
function stamp(at: Date): string {
  return `${at.toISOString().slice(0, 19).replace("T", " ")} UTC`;
}
