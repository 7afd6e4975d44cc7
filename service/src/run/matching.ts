/** Who would receive for each group, before anything is run. */
import { otherDatasets } from "@corbix/core/prepare";
import { planRun } from "@corbix/core/run";
import type { Table } from "@corbix/core/table";
import type { Context } from "../context.js";
import { getReport, newestRecipients, templateBytes } from "../library.js";
import { getDataset, getEdition, readEdition } from "../records/index.js";
import { factsNow } from "../try-out.js";

/** Each group with its people and the rule that names them, or the reason why there is nobody. */
export async function matchingOf(context: Context, name: string, period: string | undefined): Promise<object[]> {
  const { database } = context;
  const { definition: report } = await getReport(context, name);
  const others = new Map<string, Table>();
  for (const other of otherDatasets(report))
    others.set(other, await readEdition(database, await getEdition(database, other)));
  const { settings } = await getDataset(database, report.data);
  const { plan } = planRun({
    report,
    table: await readEdition(database, await getEdition(database, report.data)),
    others,
    aliases: settings.aliases ?? [],
    recipients: (await newestRecipients(context))?.recipients ?? [],
    templates: await templateBytes(context),
    facts: factsNow(context, report, period),
  });
  return plan.parcels.map(({ number, group, recipients, nobody }) => ({
    number,
    group: group.label,
    rows: group.rows.length,
    nobody: nobody ?? null,
    people: recipients.map(({ name: who, role, to, copies, blindCopies, language, why }) => ({
      name: who,
      role: role ?? "to",
      to,
      copies,
      blindCopies,
      language: language ?? null,
      why,
    })),
  }));
}
