import type { RecordFields } from "./take-records.js";

/** One record or a list of them; nothing for any other text. */
export function recordsFromJson(text: string): RecordFields[] | undefined {
  const value = maybeJson(text.replace(/^\ufeff/, ""));
  const records = Array.isArray(value) ? value : [value];
  const isRecord = (one: unknown): one is RecordFields =>
    typeof one === "object" && one !== null && !Array.isArray(one);
  return records.every(isRecord) ? records : undefined;
}

function maybeJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
