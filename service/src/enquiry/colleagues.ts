/** Colleagues who may ask and nothing else: each by an address of their own, which ends when they are taken out. */
import { createHash, randomBytes } from "node:crypto";
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { noteAction } from "../audit/audit.js";
import type { Context } from "../process/context.js";
import { siteOf } from "../process/site.js";
import {
  type ColleagueRow,
  colleagueOfToken,
  colleagues,
  deleteColleague,
  noteColleagueUse,
  saveColleague,
} from "../records/index.js";
import { getEnquiry } from "./enquiries.js";

/** Tokens are kept as digests, so that the database gives none away. */
function digestOf(token: string): string {
  return createHash("sha256").update(`colleague ${token}`).digest("hex");
}

/** Lets somebody ask; gives the address they open, which is told once. */
export async function setColleague(
  context: Context,
  name: string,
  reports: readonly string[] | null,
  by: string,
): Promise<{ readonly colleague: ColleagueRow; readonly address: string }> {
  for (const report of reports ?? []) await getEnquiry(context, report);
  const token = randomBytes(24).toString("base64url");
  await saveColleague(context.database, { name, digest: digestOf(token), reports, createdBy: by });
  await noteAction(context.database, by, "colleague set", name, { reports });
  const { settings } = context;
  const base = siteOf(settings);
  return { colleague: await getColleague(context, name), address: `${base}/ask/open/${token}` };
}

export async function removeColleague(context: Context, name: string, by: string): Promise<void> {
  if (!(await deleteColleague(context.database, name))) throw notFound(name);
  await noteAction(context.database, by, "colleague removed", name);
}

async function getColleague(context: Context, name: string): Promise<ColleagueRow> {
  const found = (await colleagues(context.database)).find((one) => one.name === name);
  if (found) return found;
  throw notFound(name);
}

function notFound(name: string): CorbixError {
  return new CorbixError("NOT_FOUND", say().enquiry.cannotFindColleague({ name }), { where: "colleagues" });
}

/** Whose token it is. */
export async function maybeColleague(context: Context, token: string): Promise<ColleagueRow | undefined> {
  const found = await colleagueOfToken(context.database, digestOf(token));
  if (found) await noteColleagueUse(context.database, found.id);
  return found;
}

/** Whether a colleague may ask a report. */
export function mayAsk({ reports }: ColleagueRow, report: string): boolean {
  return reports === null || reports.includes(report);
}
