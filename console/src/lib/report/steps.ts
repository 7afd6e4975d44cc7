/** The steps in which a report is made, in the order of the work, and which fields of its definition belong to each. */
export const STEPS = [
  { key: "data", title: "Data", fields: ["data", "lines"] },
  { key: "rows", title: "Period and rows", fields: ["period", "keep", "bring", "add", "prepare", "sort"] },
  { key: "ask", title: "Asking", fields: ["enquiry"] },
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
      "whenNothing",
      "records",
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
      "delivery.apart",
      "retention",
      "waysOut",
      "figures",
    ],
  },
  { key: "check", title: "Check and save", fields: ["report", "title"] },
] as const;

export type StepKey = (typeof STEPS)[number]["key"];

/** Steps of a report that is run, and of one that is asked. */
const ASKED: readonly StepKey[] = ["data", "rows", "ask", "files", "check"];

/** The steps of a report, in order: of one that is asked those that it has. */
export function stepsFor(isAsked: boolean): readonly (typeof STEPS)[number][] {
  return STEPS.filter(({ key }) => (isAsked ? ASKED.includes(key) : key !== "ask"));
}

/** The step that a place in a definition belongs to, such as that of a problem: `files, statement, name`. */
export function stepOf(where: string): StepKey {
  // A place in a template, such as `parts.xlsx, sheet Parts, cell C5`.
  if (/^[^,]+\.(?:xls[xm]|docx|pptx)\b/.test(where)) return "files";
  if (/^[^,]+\.(?:html|md|txt)\b/.test(where)) return "message";
  const parts = where
    .replace(/^definition,\s*|^step \d+,/, "")
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

/** Fine, wants a look, or missing. */
export type StepState = "fine" | "look" | "missing";

export interface StepFacts {
  /** Where each problem is. */
  readonly problems: readonly string[];
  readonly has: (field: string) => boolean;
  readonly hasData: boolean;
  /** Not known before it was looked. */
  readonly groupCount: number | undefined;
  readonly groupsWithoutPeople: number;
  readonly isChanged: boolean;
}

export function stateOfSteps(facts: StepFacts): Readonly<Record<StepKey, StepState>> {
  const { has } = facts;
  const wrong = new Set(facts.problems.map(stepOf));
  const missing: Partial<Record<StepKey, boolean>> = {
    data: !facts.hasData,
    groups: !has("split") || facts.groupCount === 0,
    files: !has("files") && !has("message") && !has("enquiry"),
    message: !has("message"),
    check: facts.isChanged,
  };
  const stateOf = (key: StepKey): StepState => {
    if (wrong.has(key) || (key === "people" && facts.groupsWithoutPeople > 0)) return "look";
    return missing[key] ? "missing" : "fine";
  };
  return Object.fromEntries(STEPS.map(({ key }) => [key, stateOf(key)])) as Record<StepKey, StepState>;
}
