/** Tells other systems that the run of their record is over: signed, and tried again with patience. */
import type { Context } from "../process/context.js";
import { type DueCallback, noteCallback, senderById, takeCallbacks } from "../records/index.js";
import { postJson, type Signing } from "../tell/post.js";

const AT_ONCE = 10;
const FIRST_PAUSE_S = 10;
const LONGEST_PAUSE_S = 3_600;

export async function tellCallbacks(context: Context): Promise<void> {
  const due = await takeCallbacks(context.database, AT_ONCE);
  await Promise.all(due.map((one) => tellOne(context, one)));
}

async function tellOne(context: Context, due: DueCallback): Promise<void> {
  const { report, key, run, state, callback, tries } = due;
  const error = await postJson(
    context.reach,
    callback,
    { report, key, run, state },
    await signingOf(context, due),
  ).then(
    () => undefined,
    (cause: Error) => cause.message,
  );
  const pause = Math.min(FIRST_PAUSE_S * 2 ** (tries - 1), LONGEST_PAUSE_S);
  await noteCallback(context.database, due, error === undefined, pause);
  if (error !== undefined) context.log.warn({ report, key, run, tries, error }, "callback not told");
}

/** As its sender signs. */
async function signingOf(context: Context, { sender }: DueCallback): Promise<Signing | undefined> {
  const row = sender === null ? undefined : await senderById(context.database, sender);
  if (!row?.secret || row.header === null) return undefined;
  return { secret: context.secrets.open(row.secret), header: row.header, form: row.form ?? "hex" };
}
