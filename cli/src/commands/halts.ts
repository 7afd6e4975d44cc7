import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { type Client, firstOf } from "../client.js";
import { type Output, short, tableText } from "../output.js";

export async function halts(
  client: Client,
  id: string | undefined,
  options: { open?: boolean },
  output: Output,
): Promise<number> {
  if (id !== undefined) return foundIn(client, id, options, output);
  const { items } = await client.get("/halts", { query: { limit: 50 } });
  output.value(items);
  if (items.length === 0) {
    output.line("Sending was never halted.");
    return 0;
  }
  for (const one of items) {
    output.line(`Halt ${one.id}, ${one.endedAt === null ? "open" : "over"} (since ${one.at})`);
    output.line(`  ${one.what}`);
    if (one.endedAt !== null) output.line(`  Went on ${one.endedAt} by ${one.endedBy}: ${one.words}`);
    if (one.sent + one.unsure > 0)
      output.line(
        `  ${one.sent} sent, ${one.unsure} unsure, ${one.open} of them wait for a person's word: corbix halts ${one.id}`,
      );
    output.line();
  }
  if (items.some((one) => one.endedAt === null)) output.line('Go on: corbix go-on --reason "…"');
  return 0;
}

async function foundIn(client: Client, id: string, { open }: { open?: boolean }, output: Output): Promise<number> {
  const items = await firstOf(
    client.all("/halts/{id}/messages", { path: { id }, query: { limit: 1_000, ...(open ? { open: true } : {}) } }),
  );
  output.value(items);
  if (items.length === 0) {
    output.line("Nothing was found that the database did not know of.");
    return 0;
  }
  output.line(
    tableText(
      ["", "When", "Report", "For", "Group", "To", "Became"],
      items.map((one) => [
        one.id,
        one.at.slice(0, 16).replace("T", " "),
        one.report,
        one.occasion,
        short(one.label, 30),
        short(one.addresses.join(", "), 40),
        one.decided ??
          (one.message === null ? `${one.became}, no message here` : `${one.state}, message ${one.message}`),
      ]),
    ),
  );
  output.line(
    "\nDecide what is unsure: corbix decide MESSAGE, or where there is no message here: corbix found ID arrived|due",
  );
  return 0;
}

export async function halt(client: Client, { reason }: { reason: string }, output: Output): Promise<number> {
  const done = await client.post("/halts", { body: { reason } });
  output.value(done);
  output.line(`Sending is halted. Go on: corbix go-on --reason "…"`);
  return 0;
}

export async function goOn(client: Client, { reason }: { reason: string }, output: Output): Promise<number> {
  const done = await client.post("/halts/end", { body: { reason } });
  output.value(done);
  output.line("Sending goes on.");
  return 0;
}

export async function found(client: Client, id: string, as: string, output: Output): Promise<number> {
  if (as !== "arrived" && as !== "due")
    throw new CorbixError("BAD_REQUEST", say().command.cannotDecideAs({ id, as }), {
      where: "as",
      advice: say().command.sayArrivedOrDue(),
    });
  output.value(await client.post("/found-messages/{id}/decide", { path: { id }, body: { as } }));
  output.line(as === "arrived" ? "It counts as delivered." : "It is due again: the next run for it sends it.");
  return 0;
}
