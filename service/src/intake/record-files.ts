/** Records that come as files, into the watched folder or by mail: for every report of the dataset that takes records. */
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { newestReports } from "../library/definitions.js";
import type { Context } from "../process/context.js";
import { recordsFromJson } from "./record-json.js";
import { type TakenRecord, takeRecords } from "./take-records.js";

/** A file that is called so holds records, and is no load of the dataset. */
const RECORD_FILE = /\.record\.json$/i;
const MOST_BYTES = 5_000_000;

export function isRecordFile(name: string): boolean {
  return RECORD_FILE.test(name);
}

/** Throws where no report of the dataset takes records, or what is in the file cannot be read. The file's name is the key where columns say none. */
export async function takeRecordFile(
  context: Context,
  { dataset, file, bytes }: { readonly dataset: string; readonly file: string; readonly bytes: Uint8Array },
  by: string,
): Promise<TakenRecord[]> {
  if (bytes.length > MOST_BYTES)
    throw new CorbixError("LIMIT_EXCEEDED", say().serviceIntake.recordFileTooLarge({ most: MOST_BYTES }), {
      where: file,
    });
  const takers = (await newestReports(context)).filter(
    ({ definition }) => definition.data === dataset && definition.records !== undefined,
  );
  if (takers.length === 0)
    throw new CorbixError("BAD_REQUEST", say().serviceIntake.noReportTakesRecords({ dataset }), {
      where: file,
      advice: say().serviceIntake.sayTakesRecords(),
    });
  const records = recordsFromJson(Buffer.from(bytes).toString("utf8"));
  if (!records) throw new CorbixError("BAD_RECORD", say().serviceIntake.notTheForm(), { where: file });
  const taken: TakenRecord[] = [];
  for (const { name } of takers) {
    const key = file.replace(RECORD_FILE, "");
    const call = { report: name, records, key, callback: undefined, sender: undefined, by };
    taken.push(...(await takeRecords(context, call)));
  }
  return taken;
}
