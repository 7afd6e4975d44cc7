import { CorbixError } from "@corbix/core/common";
import { safeFolder } from "@corbix/core/naming";
import { say } from "@corbix/core/words";
import { type Client, firstOf, type Schemas } from "../client.js";
import { saveDownload, writeFolder } from "../files.js";
import { findingLines, minute, type Output, short, tableText } from "../output.js";
import { wholeNumber } from "./load.js";
import { parseFilter } from "./look.js";

/** A run is looked at this often when no event comes. */
const LOOK_MS = 1_000;
const MOVING = new Set(["planning", "making", "proving", "waiting", "delivering"]);

export interface RunOptions {
  readonly for?: string;
  readonly edition?: string;
  readonly rehearse?: string;
  readonly group?: readonly string[];
  readonly again?: string;
  readonly where?: readonly string[];
  /** Numbers of single rows. */
  readonly row?: readonly string[];
  /** Only tell what would become of picked rows. */
  readonly look?: boolean;
  readonly search?: string;
  readonly wait: boolean;
}

export async function startRun(client: Client, report: string, options: RunOptions, output: Output): Promise<number> {
  const body = {
    report,
    ...(options.for ? { period: options.for } : {}),
    ...(options.edition ? { edition: Number(options.edition) } : {}),
    ...(options.rehearse ? { rehearsalTo: options.rehearse } : {}),
    ...(options.group && options.group.length > 0 ? { groups: [...options.group] } : {}),
    ...(options.again ? { again: options.again } : {}),
    ...pickedBy(options),
  };
  if (options.look) return lookAtPicks(client, report, body, output);
  const run = await client.post("/runs", { body });
  output.line(`${run.title}, ${run.periodLabel}, from ${run.data} edition ${run.edition}`);
  if (run.periodSentence) output.line(`period  ${run.periodSentence}`);
  if (!options.wait) {
    output.line(`run ${run.id} started.  Watch: corbix watch ${run.id}`);
    output.value(run);
    return 0;
  }
  return watchRun(client, run.id, output);
}

/** Rows that are named by their numbers, or that a search finds. */
function pickedBy({ row = [], where = [], search }: Pick<RunOptions, "row" | "where" | "search">) {
  if (row.length > 0) return { rows: { numbers: row.map((one) => wholeNumber(one, "--row")) } };
  if (where.length === 0 && search === undefined) return {};
  return { rows: { search: search ?? "", filters: where.map(parseFilter), sort: [] } };
}

/** What a run over picked rows would do with each of them; nothing is started. */
async function lookAtPicks(
  client: Client,
  report: string,
  { rows, edition, period }: ReturnType<typeof pickedBy> & { readonly edition?: number; readonly period?: string },
  output: Output,
): Promise<number> {
  if (!rows)
    throw new CorbixError("BAD_REQUEST", say().command.pickRows(), {
      where: "--look",
      advice: say().command.pickRowsSo(),
    });
  const picks = await client.post("/reports/{name}/picks", {
    path: { name: report },
    body: { rows, ...(edition === undefined ? {} : { edition }), ...(period === undefined ? {} : { period }) },
  });
  const going = picks.picked - picks.leftOut - picks.sentBefore;
  output.line(
    `${going.toLocaleString("en")} of ${picks.picked.toLocaleString("en")} rows would go into a run${picks.period === null ? "" : ` for ${picks.period}`}; ${picks.sentBefore.toLocaleString("en")} went out before, ${picks.leftOut.toLocaleString("en")} left out\n`,
  );
  output.line(
    tableText(
      ["Row", "Group", "Who receives", "Sent before"],
      picks.rows.map((one) =>
        one.why === null
          ? [String(one.rowNumber), one.group ?? "", short(one.people.join(", ") || "nobody"), one.before ?? "no"]
          : [String(one.rowNumber), "", `left out: ${one.why}`, ""],
      ),
    ),
  );
  output.value(picks);
  return 0;
}

/** Follows a run until it holds or ends, with a bar for files and one for messages. */
export async function watchRun(client: Client, id: string, output: Output): Promise<number> {
  let run = await client.get("/runs/{id}", { path: { id } });
  const stop = new AbortController();
  let wake = (): void => {};
  const listen = async (): Promise<void> => {
    for await (const event of client.events(stop.signal)) if (event.kind === "run" && event.subject === id) wake();
  };
  listen().catch(() => {});
  const make = output.progress("make", Math.max(2, run.parcelCount));
  while (isMoving(run)) {
    await new Promise<void>((resolve) => {
      wake = resolve;
      setTimeout(resolve, LOOK_MS);
    });
    run = await client.get("/runs/{id}", { path: { id } });
    const { parcels, messages } = run.progress;
    make.step(run.state === "delivering" ? (messages.sent ?? 0) : (parcels.made ?? 0));
  }
  make.stop();
  stop.abort();
  tellRun(run, output);
  output.value(run);
  return run.state === "failed" || run.error ? 8 : run.proof && !run.proof.mayBeReleased ? 8 : 0;
}

function isMoving(run: Schemas["Run"]): boolean {
  return MOVING.has(run.state) || (run.state === "held" && run.goesOn && run.proof?.mayBeReleased === true);
}

export interface ShowOptions {
  readonly rows?: string;
  readonly search?: string;
  readonly message?: string;
}

const SHOWN_PARCELS = "50";

/** A run with its proof and what its groups get; of many groups the first, or those that are asked for. */
export async function showRun(client: Client, id: string, options: ShowOptions, output: Output): Promise<number> {
  const run = await client.get("/runs/{id}", { path: { id } });
  const query = {
    ...(options.search === undefined ? {} : { search: options.search }),
    ...(options.message === undefined
      ? {}
      : { message: options.message as Schemas["MessageSummary"]["state"] | "none" }),
  };
  const most = wholeNumber(options.rows ?? SHOWN_PARCELS, "--rows");
  const { total } = await client.get("/runs/{id}/parcels", { path: { id }, query: { ...query, limit: 1 } });
  const parcels = await firstOf(
    client.all("/runs/{id}/parcels", { path: { id }, query: { ...query, limit: Math.min(most, 1_000) } }),
    most,
  );
  output.line(`${run.title}, ${run.periodLabel}, from ${run.data} edition ${run.edition}`);
  tellRun(run, output);
  const totals = Object.keys(parcels[0]?.totals ?? {});
  const places = new Map(
    totals.map((name) => [name, parcels.some((parcel) => !Number.isInteger(Number(parcel.totals[name]))) ? 2 : 0]),
  );
  const rows = parcels.map((parcel) => [
    parcel.number,
    short(parcel.label),
    parcel.rowCount,
    ...totals.map((name) => amount(parcel.totals[name] ?? "", places.get(name) ?? 0)),
    parcel.files.length,
    people(parcel),
    stateWords(parcel),
  ]);
  if (rows.length > 0)
    output.line(`\n${tableText(["No", "Group", "Rows", ...totals, "Files", "People", "Message"], rows)}`);
  if (total > parcels.length)
    output.line(`\n${(total - parcels.length).toLocaleString("en")} more groups: --rows, --search, --message`);
  output.value({ ...run, parcels, parcelsFound: total });
  return 0;
}

/** What became of its message; where files go by other ways alone, of those. */
function stateWords({ message, ways }: Schemas["ParcelSummary"]): string {
  if (message) return message.state;
  return ways.map(({ way, state }) => `${state} to ${way}`).join(", ") || "no recipient";
}

function amount(text: string, places: number): string {
  return Number(text).toLocaleString("en", { minimumFractionDigits: places, maximumFractionDigits: places });
}

function people(parcel: Schemas["ParcelSummary"]): number {
  const envelope = parcel.message?.envelope;
  return envelope ? envelope.to.length + envelope.cc.length + envelope.bcc.length : 0;
}

export async function listRuns(client: Client, options: { readonly rows?: string }, output: Output): Promise<number> {
  const most = wholeNumber(options.rows ?? SHOWN_PARCELS, "--rows");
  const runs = await firstOf(client.all("/runs", { query: { limit: Math.min(most, 1_000) } }), most);
  output.line(
    runs.length === 0
      ? "No runs yet. Start one: corbix run REPORT --for 2026-10"
      : tableText(
          ["Run", "Report", "Period", "State", "Started", ""],
          runs.map((run) => [
            run.id,
            run.report,
            run.period,
            run.state,
            minute(run.createdAt),
            run.rehearsalTo ? `rehearsal to ${run.rehearsalTo}` : "",
          ]),
        ),
  );
  output.value(runs);
  return 0;
}

export async function releaseRun(
  client: Client,
  id: string,
  options: { readonly group?: readonly string[]; readonly at?: string; readonly wait: boolean },
  output: Output,
): Promise<number> {
  const groups = options.group && options.group.length > 0 ? { groups: [...options.group] } : {};
  const at = options.at === undefined ? {} : { at: momentOf(options.at) };
  const before = await client.get("/runs/{id}", { path: { id } });
  const run = await client.post("/runs/{id}/release", { path: { id }, body: { ...groups, ...at } });
  if (options.at !== undefined) {
    output.line(
      at.at
        ? `run ${run.id} goes at ${options.at}.  Take it back: corbix release ${run.id} --at never`
        : `run ${run.id} waits for a person`,
    );
    output.value(run);
    return 0;
  }
  if (run.outcome === "approved") {
    output.line(
      `approved ${run.id}: ${run.approvals.map((one) => one.by).join(", ")} did; another person has to release it`,
    );
    output.value(run);
    return 0;
  }
  const { queued = 0, sending = 0, sent = 0 } = run.progress.messages;
  const had = before.outlook?.had ?? 0;
  const passed =
    had > 0
      ? `, and ${plural(had, "group")} that ${had === 1 ? "has its" : "have theirs"} already will be skipped`
      : "";
  const going = Math.max(0, Math.min(queued + sending + sent, before.outlook?.messages ?? Number.POSITIVE_INFINITY));
  output.line(
    `released ${run.id}: ${plural(going, "message is", "messages are")} on ${going === 1 ? "its" : "their"} way${passed}`,
  );
  if (options.wait) return watchRun(client, id, output);
  output.value(run);
  return 0;
}

/** A moment of this machine's time zone as the service takes it; null for `never`. Throws `BAD_REQUEST`. */
function momentOf(text: string): string | null {
  if (text === "never") return null;
  const moment = /^\d{4}-\d{2}-\d{2}[T ]\d{2}:\d{2}/.test(text)
    ? new Date(text.replace(" ", "T"))
    : new Date(Number.NaN);
  if (!Number.isNaN(moment.getTime())) return moment.toISOString();
  throw new CorbixError("BAD_REQUEST", say().command.cannotReadTime({ text }), {
    where: "--at",
    advice: say().command.writeTime(),
  });
}

/** The PDFs of all parcels, or of one group's, in one file. */
export async function printRun(
  client: Client,
  id: string,
  options: { readonly out: string; readonly group?: string; readonly sheets?: boolean },
  output: Output,
): Promise<number> {
  const query = {
    ...(options.group === undefined ? {} : { group: options.group }),
    ...(options.sheets ? { sheets: true } : {}),
  };
  return saveDownload(client.get("/runs/{id}/print.pdf", { path: { id }, query }), options.out, output);
}

/** What an auditor asks of a run, as a PDF. */
export function auditRun(
  client: Client,
  id: string,
  options: { readonly out: string },
  output: Output,
): Promise<number> {
  return saveDownload(client.get("/runs/{id}/audit.pdf", { path: { id } }), options.out, output);
}

export async function stopRun(client: Client, id: string, output: Output): Promise<number> {
  const run = await client.post("/runs/{id}/stop", { path: { id } });
  output.line(`stopped ${run.id}; what had not gone out will not go`);
  output.value(run);
  return 0;
}

/** Makes data of a run's figures, once. */
export async function keepFigures(
  client: Client,
  id: string,
  options: { readonly dataset?: string },
  output: Output,
): Promise<number> {
  const kept = await client.post("/runs/{id}/figures", { path: { id }, body: options });
  const { rowCount } = await client.get("/datasets/{name}/editions/{number}", {
    path: { name: kept.dataset, number: kept.edition },
  });
  output.line(
    `${kept.dataset} edition ${kept.edition}: ${plural(rowCount, "group")}.  Look: corbix look ${kept.dataset}`,
  );
  output.value(kept);
  return 0;
}

/** Puts all files of a run into a folder, under the names they go out with. */
export async function fetchFiles(
  client: Client,
  id: string,
  options: { readonly out: string },
  output: Output,
): Promise<number> {
  const parcels = await firstOf(client.all("/runs/{id}/parcels", { path: { id }, query: { limit: 500 } }));
  const files = parcels.flatMap((parcel) => parcel.files);
  if (files.length === 0)
    throw new CorbixError("NOT_FOUND", say().command.cannotFetchFilesRunMade({ id }), {
      where: "runs",
      advice: say().command.seeCorbixShow({ id }),
    });
  const bar = output.progress("fetch", files.length);
  let done = 0;
  await writeFolder(options.out, async (add) => {
    for (const file of files) {
      const slash = file.path.lastIndexOf("/");
      const folder = safeFolder(file.path.slice(0, Math.max(0, slash)));
      await add(`${folder}/${file.path.slice(slash + 1)}`, await client.get("/files/{id}", { path: { id: file.id } }));
      bar.step(++done);
    }
  });
  bar.stop();
  output.line(`${files.length} files of ${parcels.length} groups are in ${options.out}`);
  output.value({ folder: options.out, files: files.map((file) => file.path) });
  return 0;
}

function tellRun(run: Schemas["Run"], output: Output): void {
  const [rows, ...rest] = run.sentences;
  if (rows) output.line(`plan    ${rows}`);
  if (run.proof) output.line(`make    ${run.proof.files.made} of ${run.proof.files.planned} files`);
  for (const sentence of rest.filter((one) => !/files made|messages? to/.test(one))) output.line(`prove   ${sentence}`);
  for (const sentence of run.outlook?.sentences ?? []) output.line(`skip    ${sentence}`);
  if (run.findings.length > 0) output.line();
  for (const line of findingLines(run.findings)) output.line(line);
  if (run.findings.length > 0) output.line();
  output.line(closing(run));
}

/** Where the run stands, and the next sensible command. */
function closing(run: Schemas["Run"]): string {
  const { messages, carried } = run.progress;
  const sent = messages.sent ?? 0;
  const both = (state: "refused" | "unsure" | "skipped"): number => (messages[state] ?? 0) + (carried[state] ?? 0);
  const troubled = both("refused") + both("unsure");
  const skipped = both("skipped");
  const gone = [
    ...(run.proof?.messages === 0 && carried.sent ? [] : [`${plural(sent, "message")} sent`]),
    ...(carried.sent ? [`files of ${plural(carried.sent, "group")} put on their ways out`] : []),
  ].join(", ");
  switch (run.state) {
    case "held":
      if (run.proof && !run.proof.mayBeReleased)
        return `held    It cannot be released: a finding stops it.  Look: corbix show ${run.id}`;
      return `held    ${waits(run)}  Look: corbix show ${run.id}   Send: corbix release ${run.id}`;
    case "waiting":
      return `waiting ${run.waitingFor?.message ?? ""} ${run.waitingFor?.advice ?? ""}  Watch: corbix watch ${run.id}`;
    case "done":
      return `done    ${gone}${run.rehearsalTo ? ` to ${run.rehearsalTo}, as a rehearsal` : ""}${skipped > 0 ? `, ${skipped} skipped` : ""}${troubled > 0 ? `, ${troubled} refused or unsure: corbix outbox` : ""}.  Files: corbix fetch ${run.id} --out FOLDER`;
    case "failed":
    case "stopped":
      return `${run.state.padEnd(8)}${run.error ? `${run.error.where ? `${run.error.where}: ` : ""}${run.error.message} ${run.error.advice ?? ""}` : "Nothing more will go out."}`;
    default:
      return `${run.state} …  Watch: corbix watch ${run.id}`;
  }
}

/** What waits for the release: fewer messages than were made, where some people have theirs already. */
function waits({ proof, outlook }: Schemas["Run"]): string {
  const made = proof?.messages ?? 0;
  const files = Object.values(proof?.carried ?? {}).reduce((sum, count) => sum + count, 0);
  const ways = files > 0 ? `${plural(files, "file")} for the ways out` : "";
  if (made === 0 && files > 0) return `${ways} wait.`;
  if (outlook && outlook.messages < made)
    return `${outlook.messages} of ${plural(made, "message")} would go; the others are had already.`;
  return `${plural(made, "message")} to ${plural(proof?.people ?? 0, "person", "people")}${ways === "" ? "" : `, and ${ways},`} wait.`;
}

function plural(count: number, one: string, many = `${one}s`): string {
  return `${count} ${count === 1 ? one : many}`;
}
