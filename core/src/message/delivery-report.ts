/** What a report of delivery says of each address: message/delivery-status of RFC 3464. */

export interface DeliveryReport {
  /** The system that reports, as it names itself. */
  readonly reporter: string;
  readonly recipients: readonly ReportedRecipient[];
}

export interface ReportedRecipient {
  readonly address: string;
  readonly action: "failed" | "delayed" | "delivered" | "relayed" | "expanded";
  /** Enhanced status code of RFC 3463, such as 5.1.1. */
  readonly status: string;
  /** The words of the system that refused, or those of the status. */
  readonly words: string;
}

/** Reads the fields; recipients without an action that is known are left out. */
export function parseDeliveryStatus(text: string): DeliveryReport {
  const groups = text
    .replace(/\r\n?/g, "\n")
    .replace(/\n[ \t]+/g, " ")
    .split(/\n{2,}/)
    .map(fieldsOf)
    .filter((fields) => fields.size > 0);
  const [about] = groups;
  const recipients = groups.flatMap((fields): ReportedRecipient[] => {
    const action = (fields.get("action") ?? "").toLowerCase();
    const address = afterType(fields.get("original-recipient") ?? fields.get("final-recipient") ?? "");
    if (!isAction(action) || address === "") return [];
    const status = /\d\.\d{1,3}\.\d{1,3}/.exec(fields.get("status") ?? "")?.[0] ?? "";
    return [{ address, action, status, words: afterType(fields.get("diagnostic-code") ?? "") || status || action }];
  });
  return { reporter: afterType(about?.get("reporting-mta") ?? ""), recipients };
}

function fieldsOf(group: string): Map<string, string> {
  const fields = new Map<string, string>();
  for (const line of group.split("\n")) {
    const colon = line.indexOf(":");
    if (colon > 0) fields.set(line.slice(0, colon).trim().toLowerCase(), line.slice(colon + 1).trim());
  }
  return fields;
}

/** `rfc822; ann@dock.example` without its type. */
function afterType(value: string): string {
  return value.replace(/^[^;]*;\s*/, "").trim();
}

function isAction(text: string): text is ReportedRecipient["action"] {
  return ["failed", "delayed", "delivered", "relayed", "expanded"].includes(text);
}
