import { maybeJsonValue } from "@corbix/core/table";
import type { RecordFields } from "./take-records.js";

/** One record or a list of them; nothing for any other text. */
export function recordsFromJson(text: string): RecordFields[] | undefined {
  const value = maybeJsonValue(text);
  const records = Array.isArray(value) ? value : [value];
  const isRecord = (one: unknown): one is RecordFields =>
    typeof one === "object" && one !== null && !Array.isArray(one);
  return records.every(isRecord) ? records : undefined;
}
