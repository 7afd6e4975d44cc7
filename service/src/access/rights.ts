/** Whether a caller may do what a call asks for, and for which reports: by the table of the contract. */
import { type Grants, type Right, ROLES, rights, type Scope, scopeOf } from "@corbix/api";
import { CorbixError, oneOf } from "@corbix/core/common";
import { datasetsOf, type Report, templatesOf } from "@corbix/core/report";
import { say } from "@corbix/core/words";
import { newestReports } from "../library/definitions.js";
import type { Context } from "../process/context.js";
import { type Kind, namesBefore, reportsOf } from "../records/index.js";
import type { User } from "./access.js";

const KINDS = ["reports", "datasets", "templates"] as const satisfies readonly Kind[];

export function rightOf(call: string): Right {
  return rights[call as keyof typeof rights];
}

/** For which reports a caller may do what needs a right, whatever the call is about. Throws `NOT_ALLOWED` where for none. */
export function scopeFor(user: Pick<User, "grants">, right: Right): Scope {
  if (right === "nobody" || right === "anybody") return "all";
  const scope = scopeOf(user.grants, right.roles);
  if (scope === undefined || (right.about === "office" && scope !== "all")) throw notAllowed(right, scope);
  return scope;
}

/** Throws `NOT_ALLOWED` where the thing that a call is about is none of the caller's. Gives the scope, with reports as they are called now. */
export async function checkReach(
  context: Context,
  user: Pick<User, "grants">,
  right: Right,
  call: { readonly params: unknown; readonly query?: unknown; readonly body: unknown },
): Promise<Scope> {
  const scope = await namedNow(context, scopeFor(user, right));
  if (scope === "all" || right === "nobody" || right === "anybody") return scope;
  // Whatever a call is about: a report that it names besides has to be the caller's too, since its rows are shown.
  const besides = await reportsNow(
    context,
    [call.query, call.body].flatMap((part) => namedReport(part) ?? []),
  );
  if (besides.some((report) => !scope.includes(report))) throw notAllowed(right, scope);
  const named = await ownersOf(context, right.about, call);
  if (named === undefined) return scope;
  const owners = await reportsNow(context, named);
  const isSeen = right.roles.every((role) => role === "look" || role === "ask");
  const isOwn = (report: string): boolean => scope.includes(report);
  if (isSeen ? owners.some(isOwn) : owners.length > 0 && owners.every(isOwn)) return scope;
  throw notAllowed(right, scope);
}

/** What somebody may do, with reports as they are called by now. */
export async function grantsNow(context: Context, grants: Grants): Promise<Grants> {
  const now = await Promise.all(
    ROLES.map(async (role) => {
      const scope = grants[role];
      return scope === undefined ? [] : [[role, await namedNow(context, scope)] as const];
    }),
  );
  return Object.fromEntries(now.flat());
}

/** A scope with its reports as they are called by now. */
async function namedNow(context: Context, scope: Scope): Promise<Scope> {
  return scope === "all" ? scope : reportsNow(context, scope);
}

/** Names of reports as they are called by now, each once. */
async function reportsNow({ database }: Context, names: readonly string[]): Promise<readonly string[]> {
  if (names.length === 0) return names;
  const now = await namesBefore(database, "reports");
  return [...new Set(names.map((report) => now.get(report) ?? report))];
}

type Fields = Readonly<Record<string, unknown>>;

function namedReport(part: unknown): string | undefined {
  const named = typeof part === "object" && part !== null ? (part as Fields)["report"] : undefined;
  return typeof named === "string" ? named : undefined;
}

/** The reports that what a call is about belongs to; `undefined` where there is no such thing, which the call itself tells. */
async function ownersOf(
  context: Context,
  about: Exclude<Right, string>["about"],
  { params, body }: { readonly params: unknown; readonly body: unknown },
): Promise<readonly string[] | undefined> {
  const own = (params ?? {}) as Fields;
  const text = (name: string): string => String(own[name] ?? "");
  switch (about) {
    case "office":
    case "some":
    case "listed":
      return undefined;
    case "report":
      return [text("name")];
    case "sent":
      return [namedReport(body) ?? ""];
    case "run":
    case "message":
    case "file":
    case "question":
      return reportsOf(context.database, about, text("id"));
    case "dataset":
      return usersOf(context, "datasets", [text("name"), ...(own["other"] === undefined ? [] : [text("other")])]);
    case "template":
      return usersOf(context, "templates", [text("file")]);
    case "kept": {
      const kind = oneOf(KINDS, text("kind"), "datasets");
      return kind === "reports" ? [text("name")] : usersOf(context, kind, [text("name")]);
    }
  }
}

/** Reports that use something: of several things those that use them all. */
async function usersOf(
  context: Context,
  kind: "datasets" | "templates",
  names: readonly string[],
): Promise<readonly string[]> {
  const named = kind === "datasets" ? datasetsOf : templatesOf;
  return (await newestReports(context))
    .filter(({ definition }) => names.every((name) => named(definition).includes(name)))
    .map(({ name }) => name);
}

/** What somebody with a scope may see: reports, and what those are made from. */
export interface Reach {
  readonly reports: readonly string[];
  readonly datasets: readonly string[];
  readonly templates: readonly string[];
}

/** `undefined` for all there is. */
export async function reachOf(context: Context, scope: Scope): Promise<Reach | undefined> {
  if (scope === "all") return undefined;
  const own = (await newestReports(context)).filter(({ name }) => scope.includes(name));
  const all = (names: (report: Report) => readonly string[]): string[] => [
    ...new Set(own.flatMap(({ definition }) => names(definition))),
  ];
  return { reports: scope, datasets: all(datasetsOf), templates: all(templatesOf) };
}

/** Names of reports that a list is narrowed to; `undefined` for all. */
export function namesOf(scope: Scope): readonly string[] | undefined {
  return scope === "all" ? undefined : scope;
}

/** A report may be made only from data and templates that its maker sees. Throws `NOT_ALLOWED` with what they do not. */
export async function checkSources(context: Context, scope: Scope, report: Report): Promise<void> {
  const reach = await reachOf(context, scope);
  if (!reach) return;
  const foreign = [
    ...datasetsOf(report).filter((name) => !reach.datasets.includes(name)),
    ...templatesOf(report).filter((name) => !reach.templates.includes(name)),
  ];
  const [name] = foreign;
  if (name === undefined) return;
  throw new CorbixError("NOT_ALLOWED", say().serviceAccess.mayNotUse({ name }), {
    where: report.report,
    advice: say().serviceAccess.askOperator(),
  });
}

function notAllowed(right: Exclude<Right, string>, scope: Scope | undefined): CorbixError {
  const words = right.roles.map((role) => say().serviceAccess.role({ role }));
  const what = say().serviceAccess.mayNot({ roles: words, isForSome: scope !== undefined });
  return new CorbixError("NOT_ALLOWED", what, { advice: say().serviceAccess.askOperator() });
}
