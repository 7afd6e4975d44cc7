import { ROLES, type Role } from "@corbix/api";
import { CorbixError, suggestName } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import type { Client, Schemas } from "../client.js";
import { firstOf } from "../client.js";
import { minute, type Output, tableText } from "../output.js";
import { wholeNumber } from "./load.js";

type Grants = Schemas["Self"]["roles"];

/** What somebody may do, from words such as `look`, `release:site-statement`. Throws `BAD_REQUEST`. */
function grantsOf(words: readonly string[]): Grants {
  const grants: Partial<Record<Role, "all" | string[]>> = {};
  for (const word of words) {
    const [name = "", report] = word.split(":", 2);
    const role = ROLES.find((one) => one === name);
    if (!role)
      throw new CorbixError("BAD_REQUEST", say().command.cannotGiveRole({ name }), {
        where: "--may",
        advice: suggestName(name, ROLES, say().command.roles()),
      });
    const known = grants[role];
    if (report === undefined) grants[role] = "all";
    else if (known !== "all") grants[role] = [...(known ?? []), report];
  }
  return grants as Grants;
}

function said(grants: Grants | null): string {
  if (grants === null) return "all that its person may";
  const parts = ROLES.flatMap((role) => {
    const scope = grants[role];
    return scope === undefined ? [] : [scope === "all" ? role : `${role}: ${scope.join(", ")}`];
  });
  return parts.join("; ") || "nothing";
}

export interface PeopleOptions {
  readonly may: readonly string[];
  readonly invite?: boolean;
  readonly link?: boolean;
  readonly mail?: boolean;
  readonly off?: boolean;
  readonly on?: boolean;
  readonly shown?: string;
  readonly address?: string;
}

/** Lists people, invites one, changes what one may do, or switches one off or on. */
export async function people(
  client: Client,
  name: string | undefined,
  options: PeopleOptions,
  output: Output,
): Promise<number> {
  if (name === undefined) {
    const all = await firstOf(client.all("/people"));
    output.line(
      tableText(
        ["Name", "Shown as", "State", "May", "Signed in last"],
        all.map((one) => [
          one.name,
          one.shownName === one.name ? "" : one.shownName,
          one.state,
          said(one.roles),
          one.signedInAt ? minute(one.signedInAt) : "",
        ]),
      ),
    );
    output.value(all);
    return 0;
  }
  const path = { person: name };
  const facts = {
    ...(options.shown === undefined ? {} : { shownName: options.shown }),
    ...(options.address === undefined ? {} : { address: options.address }),
  };
  if (options.invite || options.link) {
    const invited = options.invite
      ? await client.post("/people", {
          body: { name, roles: grantsOf(options.may), ...facts, mail: options.mail ?? false },
        })
      : await client.post("/people/{person}/invitation", { path, body: { mail: options.mail ?? false } });
    if (invited.isMailed) output.line(`it went to ${invited.person.address ?? ""} by mail`);
    else if (invited.mailTrouble) output.line(`it did not go by mail: ${invited.mailTrouble}`);
    output.line(
      `${invited.person.name} comes in by this link, once, until ${minute(invited.until)}; it is not shown again:`,
    );
    output.line(invited.link);
    output.value(invited);
    return 0;
  }
  const person = options.off
    ? await client.post("/people/{person}/off", { path })
    : options.on
      ? await client.post("/people/{person}/on", { path })
      : options.may.length > 0 || Object.keys(facts).length > 0
        ? await client.put("/people/{person}", {
            path,
            body: { ...facts, ...(options.may.length > 0 ? { roles: grantsOf(options.may) } : {}) },
          })
        : await client.get("/people/{person}", { path });
  output.line(`${person.name} (${person.shownName}) is ${person.state} and may ${said(person.roles)}`);
  output.value(person);
  return 0;
}

export interface TokenOptions {
  readonly may: readonly string[];
  readonly days?: string;
  readonly perMinute?: string;
  readonly rotate?: boolean;
  readonly revoke?: boolean;
}

/** Lists tokens for scripts, makes one, gives one another secret, or ends one. */
export async function tokens(
  client: Client,
  name: string | undefined,
  options: TokenOptions,
  output: Output,
): Promise<number> {
  const all = await firstOf(client.all("/tokens"));
  if (name === undefined) {
    output.line(
      tableText(
        ["Token", "Whose", "May", "Ends", "Used last"],
        all.map((one) => [
          one.name,
          one.person,
          said(one.roles),
          one.expiresAt ? minute(one.expiresAt) : "never",
          one.usedAt ? `${minute(one.usedAt)} ${one.usedFrom ?? ""}` : "",
        ]),
      ),
    );
    output.value(all);
    return 0;
  }
  if (options.rotate || options.revoke) {
    const known = all.find((one) => one.name === name);
    if (!known)
      throw new CorbixError("NOT_FOUND", say().command.cannotFindToken({ name }), {
        where: "tokens",
        advice: suggestName(
          name,
          all.map((one) => one.name),
          say().command.tokens(),
        ),
      });
    const path = { id: known.id };
    if (options.revoke) {
      output.value(await client.delete("/tokens/{id}", { path }));
      output.line(`the token ${name} is good for nothing any more`);
      return 0;
    }
    return tell(await client.post("/tokens/{id}/rotate", { path, body: {} }), output);
  }
  const made = await client.post("/tokens", {
    body: {
      name,
      ...(options.may.length > 0 ? { roles: grantsOf(options.may) } : {}),
      ...(options.days === undefined ? {} : { days: wholeNumber(options.days, "--days") }),
      ...(options.perMinute === undefined ? {} : { perMinute: wholeNumber(options.perMinute, "--per-minute") }),
    },
  });
  return tell(made, output);
}

function tell(told: { readonly token: Schemas["Token"]; readonly secret: string }, output: Output): number {
  output.line(`the token ${told.token.name} may ${said(told.token.roles)}; it is not shown again:`);
  output.line(told.secret);
  output.value(told);
  return 0;
}

export interface TrailOptions {
  readonly by?: string;
  readonly of?: string;
  readonly what?: string;
  readonly digest?: string;
  readonly since?: string;
  readonly until?: string;
  readonly rows?: string;
}

/** What was done, by whom, when and from where, the newest first. */
export async function trail(client: Client, options: TrailOptions, output: Output): Promise<number> {
  const limit = options.rows === undefined ? 50 : wholeNumber(options.rows, "--rows");
  const { items } = await client.get("/trail", {
    query: {
      limit: Math.min(limit, 1_000),
      ...(options.by === undefined ? {} : { who: options.by }),
      ...(options.of === undefined ? {} : { subject: options.of }),
      ...(options.what === undefined ? {} : { what: options.what }),
      ...(options.digest === undefined ? {} : { hash: options.digest }),
      ...(options.since === undefined ? {} : { since: options.since }),
      ...(options.until === undefined ? {} : { until: options.until }),
    },
  });
  output.line(
    items.length === 0
      ? "Nothing was done that meets all of this."
      : tableText(
          ["When", "Who", "What", "Of", "From"],
          items.map((one) => [minute(one.at), one.who, one.what, one.subject, one.from ?? "the service itself"]),
        ),
  );
  output.value(items);
  return 0;
}
