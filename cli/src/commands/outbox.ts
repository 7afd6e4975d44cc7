import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { type Client, firstOf, type Schemas } from "../client.js";
import { saveDownload } from "../files.js";
import { minute, type Output, short, tableText } from "../output.js";
import { wholeNumber } from "./load.js";

export interface SearchOptions {
  readonly person?: string;
  readonly group?: string;
  readonly file?: string;
  readonly report?: string;
  readonly for?: string;
  readonly state?: string;
  readonly since?: string;
  readonly until?: string;
  readonly rows?: string;
}

const LISTED = "50";

export async function listMessages(client: Client, options: SearchOptions, output: Output): Promise<number> {
  const { for: period, since: from, rows, ...rest } = options;
  const asked = Object.entries({ ...rest, period, from }).filter((entry): entry is [string, string] => !!entry[1]);
  const most = wholeNumber(rows ?? LISTED, "--rows");
  const query = { ...Object.fromEntries(asked), limit: Math.min(most, 1_000) };
  const messages = await firstOf(client.all("/outbox", { query }), most);
  output.line(
    messages.length > 0
      ? tableText(
          ["No", "When", "Report", "Group", "To", "State", "Said"],
          messages.map((one) => [
            one.id,
            minute(one.sentAt ?? one.touchedAt),
            `${one.report} ${one.period}`,
            short(one.label, 30),
            short(allPeople(one.envelope), 40),
            one.rehearsalTo ? `${one.state} (rehearsal)` : one.state,
            short(one.response ?? "", 60),
          ]),
        )
      : asked.length > 0
        ? "No message meets all of this."
        : "Nothing was released yet. See what waits: corbix runs",
  );
  const unsure = messages.find((one) => one.state === "unsure");
  if (unsure)
    output.line(`\nDecide what is unsure: corbix message ${unsure.id}, then corbix decide ${unsure.id} arrived`);
  output.value(messages);
  return 0;
}

export async function tellMessage(
  client: Client,
  id: string,
  options: { readonly out?: string },
  output: Output,
): Promise<number> {
  if (options.out !== undefined)
    return saveDownload(client.get("/messages/{id}/raw", { path: { id: numberOf(id) } }), options.out, output);
  const one = await client.get("/messages/{id}", { path: { id: numberOf(id) } });
  const facts: [string, string][] = [
    ["subject", one.subject],
    ["to", list(one.envelope.to)],
    ["copies", list(one.envelope.cc)],
    ["blind", list(one.envelope.bcc)],
    ["state", `${one.state}${one.response ? `: ${one.response}` : ""}`],
    ["sent", one.sentAt ? minute(one.sentAt) : ""],
    ["again", one.againReason ?? ""],
    ["by", one.identity],
    ["id", one.messageId],
    ["bytes", one.size ? one.size.toLocaleString("en") : ""],
  ];
  for (const [name, value] of facts) if (value !== "") output.line(`${name.padEnd(9)}${value}`);
  for (const [address, result] of Object.entries(one.results))
    output.line(`         ${address}: ${result.state}${result.response ? `, ${result.response}` : ""}`);
  for (const attempt of one.trail)
    output.line(
      `attempt  ${attempt.number}, ${minute(attempt.startedAt)}: ${attempt.outcome ?? "on its way"}${attempt.response ? `, ${attempt.response}` : ""}`,
    );
  for (const download of one.downloads) output.line(`fetched  ${minute(download.at)} ${download.path}`);
  for (const report of one.reports) output.line(`report   ${minute(report.at)} came back: corbix --json message ${id}`);
  output.value(one);
  return 0;
}

export async function decide(
  client: Client,
  id: string,
  as: string,
  options: { readonly reason?: string },
  output: Output,
): Promise<number> {
  if (as !== "arrived" && as !== "again")
    throw new CorbixError("BAD_REQUEST", say().command.cannotDecideMessage({ as }), {
      where: `message ${id}`,
      advice: say().command.sayArrivedAgain(),
    });
  const decided = await client.post("/messages/{id}/decide", {
    path: { id: numberOf(id) },
    body: { as, ...(options.reason === undefined ? {} : { reason: options.reason }) },
  });
  output.line(as === "arrived" ? `message ${id} counts as sent` : `message ${id} goes once more, as the same message`);
  output.value(decided);
  return 0;
}

export async function again(
  client: Client,
  id: string,
  options: { readonly reason: string },
  output: Output,
): Promise<number> {
  const made = await client.post("/messages/{id}/again", {
    path: { id: numberOf(id) },
    body: { reason: options.reason },
  });
  const how = made.as === "repeat" ? "marked as sent again" : "as a first time, to whom it never reached";
  output.line(`message ${made.id} is on its way, ${how}.  Follow: corbix message ${made.id}`);
  output.value(made);
  return 0;
}

export async function skip(
  client: Client,
  id: string,
  options: { readonly group: readonly string[]; readonly reason: string },
  output: Output,
): Promise<number> {
  if (options.group.length === 0)
    throw new CorbixError("BAD_REQUEST", say().command.cannotLeaveGroupsOutWithout(), {
      where: `run ${id}`,
      advice: say().command.addGroupOftenGroups(),
    });
  const run = await client.post("/runs/{id}/skip", {
    path: { id },
    body: { groups: [...options.group], reason: options.reason },
  });
  const skipped = run.progress.messages.skipped ?? 0;
  output.line(
    `${skipped} ${skipped === 1 ? "message of run" : "messages of run"} ${run.id} ${skipped === 1 ? "is" : "are"} left out`,
  );
  output.value(run);
  return 0;
}

export async function pauseOrResume(
  client: Client,
  what: "pause" | "resume",
  id: string | undefined,
  options: { readonly identity?: string },
  output: Output,
): Promise<number> {
  if ((id === undefined) === (options.identity === undefined))
    throw new CorbixError("BAD_REQUEST", say().command.cannotNameRunIdentityIdentity({ what }), {
      advice: say().command.seeCorbixRunsCorbixIdentities(),
    });
  const answer =
    id === undefined
      ? await client.post(`/identities/{name}/${what}`, { path: { name: options.identity ?? "" } })
      : await client.post(`/runs/{id}/${what}`, { path: { id } });
  const whose = id === undefined ? `identity ${options.identity}` : `run ${id}`;
  output.line(what === "pause" ? `${whose}: what waits, waits` : `${whose}: what waits goes on`);
  output.value(answer);
  return 0;
}

function numberOf(id: string): string {
  if (/^\d{1,18}$/.test(id)) return id;
  throw new CorbixError("BAD_REQUEST", say().command.cannotFindMessageNumber({ id }), {
    where: "outbox",
    advice: say().command.seeCorbixOutbox(),
  });
}

function allPeople({ to, cc, bcc }: Schemas["Envelope"]): string {
  return list([...to, ...cc, ...bcc]);
}

function list(people: readonly Schemas["Address"][]): string {
  return people.map(({ address }) => address).join("; ");
}
