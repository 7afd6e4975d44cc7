/** Who is signed in, and what they may do: by the same table that the service keeps to. */
import { RIGHTS, type Right, type Role, scopeOf } from "@corbix/api/rights";
import type { Self } from "./client";
import { word } from "./format.js";

export type Call = keyof typeof RIGHTS;

/** Who is signed in; `null` where nobody is, `undefined` where that is not known yet. */
export const session = $state<{ self: Self | null | undefined }>({ self: undefined });

/** Whether a call may be made: of a report where one is named, else of any. What is not to be had is not shown. */
export function may(call: Call, report?: string): boolean {
  const right: Right = RIGHTS[call];
  if (right === "nobody" || right === "anybody") return true;
  const scope = scopeOf(session.self?.roles ?? {}, right.roles);
  if (scope === undefined) return false;
  if (scope === "all") return true;
  return right.about !== "office" && (report === undefined || scope.includes(report));
}

/** Whether somebody has a role for all reports, or for some. */
export function has(role: Role): boolean {
  return scopeOf(session.self?.roles ?? {}, [role]) !== undefined;
}

/** The roles, the narrowest first, with what each lets one do. */
export const ROLE_WORDS: readonly {
  readonly role: Role;
  readonly title: string;
  readonly short: string;
  readonly says: string;
}[] = [
  {
    role: "ask",
    title: word("May ask"),
    short: word("ask"),
    says: word("fill in enquiries, and see what they asked themselves"),
  },
  {
    role: "look",
    title: word("May look"),
    short: word("look"),
    says: word("see data, reports, runs and what went out"),
  },
  {
    role: "prepare",
    title: word("May prepare"),
    short: word("prepare"),
    says: word("data, recipients, templates and reports; start and rehearse runs"),
  },
  {
    role: "release",
    title: word("May release"),
    short: word("release"),
    says: word("let runs go, and settle what became of messages"),
  },
  {
    role: "operate",
    title: word("May operate"),
    short: word("operate"),
    says: word("people, identities, ways out and settings"),
  },
];
