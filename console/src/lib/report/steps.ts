/** The steps in which a report is made, in the order of the work, and which fields of its definition belong to each. */
export const STEPS = [
  { key: "data", title: "Data", fields: ["data", "lines"] },
  { key: "rows", title: "Period and rows", fields: ["period", "keep", "bring", "add", "prepare", "sort"] },
  { key: "groups", title: "Groups", fields: ["split", "totals"] },
  { key: "files", title: "Files", fields: ["files", "locale", "sealed"] },
  {
    key: "people",
    title: "People",
    fields: ["delivery.to", "delivery.narrow", "delivery.instead", "delivery.copies", "delivery.blindCopies"],
  },
  { key: "message", title: "Message", fields: ["message"] },
  {
    key: "when",
    title: "When and how",
    fields: [
      "schedule",
      "startOnData",
      "once",
      "delivery.from",
      "delivery.sender",
      "delivery.replyTo",
      "delivery.headers",
      "delivery.importance",
      "delivery.files",
      "delivery.linkDays",
      "delivery.hold",
      "delivery.approvals",
      "retention",
    ],
  },
  { key: "check", title: "Check and save", fields: ["report", "title"] },
] as const;

export type StepKey = (typeof STEPS)[number]["key"];

/** The step that a place in a definition belongs to, such as that of a problem: `files, statement, name`. */
export function stepOf(where: string): StepKey {
  const parts = where
    .replace(/^step \d+,/, "")
    .split(/[.,]\s*|\s+/)
    .filter(Boolean);
  for (const length of [2, 1])
    for (const { key, fields } of STEPS)
      if ((fields as readonly string[]).includes(parts.slice(0, length).join("."))) return key;
  if (parts[0] === "subject" || parts[0] === "body") return "message";
  return parts[0] === "file" || parts[0] === "cell" || parts[0] === "sheet"
    ? "files"
    : parts[0] === "total"
      ? "groups"
      : "check";
}
