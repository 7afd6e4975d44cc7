import { readdir, readFile } from "node:fs/promises";
import { basename, join } from "node:path";
import { calendarSchema } from "@corbix/core/calendar";
import { sha256 } from "@corbix/core/common";
import { readRecipients } from "@corbix/core/recipients";
import { parseYaml } from "@corbix/core/report";
import { loadTable } from "@corbix/core/table";
import { noteAction } from "../audit/audit.js";
import { takeIn } from "../intake/take-in.js";
import { setCalendar } from "../library/calendars.js";
import { addReport, addTemplate } from "../library/definitions.js";
import { importList } from "../library/recipient-list.js";
import type { Context } from "../process/context.js";
import { isInUse } from "../records/index.js";

/** Loads the made-up inspection office into an empty database; tells whether it did. */
export async function loadDemo(context: Context, folder: string): Promise<boolean> {
  if (await isInUse(context.database)) return false;
  const by = "demo";
  const master = "visits-2026.xlsx";
  const bytes = await readFile(join(folder, master));
  await takeIn(context, { dataset: "visits", file: master, sha256: await context.store.put(bytes) }, by);
  const list = await readFile(join(folder, "recipients.csv"));
  await importList(
    context,
    { name: "recipients.csv", sha256: sha256(list) },
    readRecipients(loadTable(list, "recipients.csv").table, "recipients.csv"),
    { mode: "replace" },
    by,
  );
  for (const name of (await readdir(join(folder, "templates"))).sort())
    await addTemplate(context, name, await readFile(join(folder, "templates", name)), by);
  for (const name of (await readdir(join(folder, "calendars"))).sort()) {
    const source = await readFile(join(folder, "calendars", name), "utf8");
    await setCalendar(
      context,
      basename(name, ".yaml"),
      calendarSchema.parse(parseYaml(source, name, "BAD_DEFINITION")),
      by,
    );
  }
  for (const name of ["site-statement.yaml", "unit-figures.yaml", "office-months.yaml", "visit-enquiry.yaml"])
    await addReport(context, await readFile(join(folder, name), "utf8"), by);
  await noteAction(context.database, by, "demo loaded", master);
  return true;
}
