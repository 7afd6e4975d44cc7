/** What a schema finds wrong, in the words of whoever filled it in. */
import type { ZodError } from "zod";
import { say } from "../words/index.js";

type Issue = ZodError["issues"][number];

/** So many are told at once. */
const MOST_TOLD = 5;

/** Zod's issues as one sentence, each with its field. */
export function describeProblems(error: ZodError): string {
  return error.issues
    .slice(0, MOST_TOLD)
    .map((issue) => {
      const deepest = deepestOf(issue);
      const field = deepest.path.join(".");
      const words = wordsOfIssue(deepest);
      return field === "" ? words : `${field}: ${words.charAt(0).toLowerCase()}${words.slice(1)}`;
    })
    .join("; ");
}

/** Where one of several forms was meant, which shows by how far its fields fit, what is wrong inside of that. */
function deepestOf(issue: Issue): Issue {
  if (issue.code !== "invalid_union") return issue;
  const inside = issue.errors
    .map((issues) => issues.map((one) => deepestOf(one as Issue)))
    .filter((issues) => issues.length > 0 && issues.every((one) => one.path.length > 0))
    .sort((a, b) => a.length - b.length)[0];
  return inside ? { ...inside[0], path: [...issue.path, ...inside[0].path] } : issue;
}

function wordsOfIssue(issue: Issue): string {
  const { schema } = say();
  // A schema's own words say what is expected better than its kind does.
  if (!isZods(issue.message)) return say().definition.field({ text: issue.message });
  switch (issue.code) {
    case "invalid_type":
      return issue.message.endsWith("received undefined")
        ? schema.isMissing({ kind: kindWords(issue.expected) })
        : schema.expectedKind({ kind: kindWords(issue.expected), found: kindWords(foundIn(issue.message)) });
    case "invalid_value":
      return schema.expectedOneOf({ values: issue.values.map(String).join(", ") });
    case "unrecognized_keys":
      return schema.noSuchField({ names: issue.keys.map((key) => `\`${key}\``).join(", ") });
    case "invalid_union":
      return unionWords(issue);
    case "too_small":
      if (issue.origin === "string") return schema.blankFillTakeOut();
      return issue.origin === "array"
        ? schema.needsEntries({ least: Number(issue.minimum) })
        : schema.atLeast({ least: Number(issue.minimum) });
    case "too_big":
      if (issue.origin === "string") return schema.tooLong({ most: Number(issue.maximum) });
      return issue.origin === "array"
        ? schema.tooManyEntries({ most: Number(issue.maximum) })
        : schema.atMost({ most: Number(issue.maximum) });
    case "invalid_format":
      return issue.format === "email" ? schema.noMailAddress() : schema.notWrittenSo();
    // Of a name that is not allowed the reason stands inside.
    case "invalid_key":
      return issue.issues[0] ? wordsOfIssue(issue.issues[0] as Issue) : schema.notWrittenSo();
    default:
      return schema.notWrittenSo();
  }
}

const isZods = (message: string): boolean => /^(Invalid|Too (big|small)|Unrecognized)\b/.test(message);
const foundIn = (message: string): string => /received (\w+)$/.exec(message)?.[1] ?? "";

/** The forms that would do, where none of them was meant. */
function unionWords(issue: Issue & { readonly code: "invalid_union" }): string {
  const first = issue.errors.flatMap((issues) => issues.slice(0, 1) as Issue[]);
  const kinds = first.flatMap((one) => (one.code === "invalid_type" ? [kindWords(one.expected)] : []));
  const values = first.flatMap((one) => (one.code === "invalid_value" ? one.values.map(String) : []));
  const forms = [...new Set([...kinds, ...values])];
  return forms.length === 0 ? say().schema.notWrittenSo() : say().schema.expectedOneOf({ values: forms.join(", ") });
}

/** A kind of value as people call it. */
function kindWords(kind: string): string {
  const { schema } = say();
  const words: Readonly<Record<string, () => string>> = {
    string: schema.text,
    number: schema.number,
    int: schema.wholeNumber,
    boolean: schema.trueOrFalse,
    array: schema.list,
    object: schema.namedFields,
    record: schema.namedFields,
    null: schema.nothing,
    undefined: schema.nothing,
    date: schema.day,
  };
  return (words[kind] ?? schema.otherKind)();
}
