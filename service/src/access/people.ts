/** People: invited, let in, changed, switched off; their sessions and tokens. */
import { bothGrants, type Grants, ROLES } from "@corbix/api";
import { CorbixError, suggestName } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { noteAction } from "../audit/audit.js";
import { announce } from "../events/events.js";
import type { Context } from "../process/context.js";
import { siteOf } from "../process/site.js";
import {
  addInvited,
  deleteSessions,
  deleteTokenById,
  type ListedUser,
  listedUser,
  replaceToken,
  rolesFromHere,
  saveToken,
  setInvitation,
  setPassword,
  setUserFacts,
  setUserOff,
  type TokenRow,
  tokenById,
  type UserFacts,
  useInvitation,
  userNames,
  userOfInvitation,
} from "../records/index.js";
import { sendOwnMail } from "../tell/own-mail.js";
import { digestOf, newSecret, type User } from "./access.js";
import { checkPassword, hashPassword } from "./passwords.js";

/** Somebody with a link that works once. */
export interface Invited {
  readonly person: ListedUser;
  readonly link: string;
  readonly until: Date;
  /** What became of sending it, where that was asked for. */
  readonly mail: { readonly isMailed: boolean; readonly mailTrouble: string | null };
}

/** Throws `NOT_FOUND` with a near name. */
export async function getPerson(context: Context, name: string): Promise<ListedUser> {
  const found = await listedUser(context.database, name);
  if (found) return found;
  throw new CorbixError("NOT_FOUND", say().serviceAccess.cannotFindPerson({ name }), {
    where: "people",
    advice: suggestName(name, await userNames(context.database), say().serviceAccess.people()),
  });
}

/** Adds somebody with what they may do; the link by which they come in is told once. Throws `CONFLICT` for a name that is taken. */
export async function invitePerson(
  context: Context,
  wish: Partial<UserFacts> & {
    readonly name: string;
    readonly roles: Grants;
    readonly days: number;
    readonly mail: boolean;
  },
  by: User,
): Promise<Invited> {
  const { days, mail, name, shownName = null, address = null, language = null, zone = null, roles } = wish;
  checkRoles(roles, by);
  const secret = newSecret();
  const facts = { name, shownName, address, language, zone, roles, createdBy: by.name };
  const until = await addInvited(context.database, facts, { digest: digestOf(secret), days });
  if (!until)
    throw new CorbixError("CONFLICT", say().serviceAccess.nameIsTaken({ name }), {
      where: "name",
      advice: say().serviceAccess.chooseAnotherName(),
    });
  await noteAction(context.database, by.name, "person invited", name, { roles, address, until });
  return told(context, await getPerson(context, name), { secret, until, mail, by });
}

/** Another link, which ends those before: for somebody who has not come, or who has forgotten the password. */
export async function inviteAgain(
  context: Context,
  name: string,
  { days, mail }: { readonly days: number; readonly mail: boolean },
  by: User,
): Promise<Invited> {
  const person = await getPerson(context, name);
  checkOwnMatter(person, by);
  if (person.state === "off")
    throw new CorbixError("CONFLICT", say().serviceAccess.isSwitchedOff({ name }), {
      where: "people",
      advice: say().serviceAccess.switchOnFirst(),
    });
  const secret = newSecret();
  const until = await setInvitation(context.database, person.id, { digest: digestOf(secret), days });
  await noteAction(context.database, by.name, "person invited again", person.name, { until });
  return told(context, person, { secret, until, mail, by });
}

/** The link is told to who invites, and goes to the person's address where that is wanted: a mail that cannot go undoes nothing. */
async function told(
  context: Context,
  person: ListedUser,
  given: { readonly secret: string; readonly until: Date; readonly mail: boolean; readonly by: User },
): Promise<Invited> {
  const { secret, until, mail, by } = given;
  const link = linkOf(context, secret);
  const words = say().serviceAccess;
  const send = async (): Promise<Invited["mail"]> => {
    if (!mail) return { isMailed: false, mailTrouble: null };
    if (person.address === null) return { isMailed: false, mailTrouble: words.noAddress() };
    const facts = { by: by.shownName ?? by.name, name: person.name, link, until: until.toISOString().slice(0, 10) };
    return sendOwnMail(context, {
      to: person.address,
      subject: words.invitationSubject(),
      text: words.invitationText(facts),
      id: `invitation-${digestOf(secret).slice(0, 24)}`,
    }).then(
      () => ({ isMailed: true, mailTrouble: null }),
      (error: Error) => ({ isMailed: false, mailTrouble: error.message }),
    );
  };
  return { person, link, until, mail: await send() };
}

function linkOf({ settings }: Context, secret: string): string {
  const base = siteOf(settings);
  return `${base}/#/come-in/${secret}`;
}

/** Whom an invitation is for. Throws `NOT_FOUND` for one that is over, used or unknown. */
export async function invitationOf(context: Context, secret: string) {
  const found = await userOfInvitation(context.database, digestOf(secret));
  if (found) return found;
  throw new CorbixError("NOT_FOUND", say().serviceAccess.invitationIsOver(), {
    where: "invitations",
    advice: say().serviceAccess.askForAnother(),
  });
}

/** Uses an invitation up: sets the password. Gives who comes in. */
export async function acceptInvitation(
  context: Context,
  secret: string,
  password: string,
): Promise<{ readonly id: number; readonly name: string }> {
  const invited = await invitationOf(context, secret);
  checkPassword(password, wordsAbout(invited));
  const user = await useInvitation(context.database, digestOf(secret), await hashPassword(password));
  if (!user) return invitationOf(context, secret);
  await noteAction(context.database, user.name, "invitation accepted", user.name);
  await tellAccess(context, user.name);
  return user;
}

/** Changes what somebody is called or may do; it counts at once. Throws `CONFLICT` where nobody would be left to let people in. */
export async function changePerson(
  context: Context,
  name: string,
  changes: Partial<UserFacts>,
  by: User,
): Promise<ListedUser> {
  const person = await getPerson(context, name);
  checkOwnMatter(person, by);
  if (changes.roles) checkRoles(changes.roles, by);
  await setFacts(context, person, changes);
  // What is said here is not said otherwise by a provider at the next sign-in.
  if (changes.roles && person.rolesFrom === "groups") await rolesFromHere(context.database, person.id);
  await noteAction(context.database, by.name, "person changed", person.name, {
    before: differing(person, changes),
    after: changes,
  });
  await tellAccess(context, person.name);
  return getPerson(context, name);
}

/** What one changes of oneself. */
export async function changeSelf(
  context: Context,
  user: User,
  changes: Pick<Partial<UserFacts>, "shownName" | "language" | "zone">,
): Promise<void> {
  await setFacts(context, user, changes);
  await noteAction(context.database, user.name, "own account changed", user.name, {
    before: differing(user, changes),
    after: changes,
  });
}

async function setFacts(
  context: Context,
  known: UserFacts & { readonly id: number; readonly name: string },
  changes: Partial<UserFacts>,
): Promise<void> {
  const { shownName, address, language, zone, roles } = known;
  const given = Object.fromEntries(Object.entries(changes).filter(([, value]) => value !== undefined));
  const facts = { shownName, address, language, zone, roles, ...given };
  if (!(await setUserFacts(context.database, known.id, facts))) throw nobodyLeft(known.name);
}

function differing(known: UserFacts, changes: Partial<UserFacts>): object {
  return Object.fromEntries(Object.keys(changes).map((field) => [field, known[field as keyof UserFacts]]));
}

/** Switches a leaver off: sessions, tokens and links end at once. */
export async function switchPerson(context: Context, name: string, isOff: boolean, by: User): Promise<ListedUser> {
  const person = await getPerson(context, name);
  checkOwnMatter(person, by);
  if (!(await setUserOff(context.database, person.id, isOff))) throw nobodyLeft(person.name);
  await noteAction(context.database, by.name, isOff ? "person switched off" : "person switched on", person.name);
  await tellAccess(context, person.name);
  return getPerson(context, name);
}

/** Ends sessions of somebody, all but one where it is named. Gives how many. */
export async function endSessions(
  context: Context,
  person: { readonly id: number; readonly name: string },
  besides: number | null,
  by: string,
): Promise<number> {
  const ended = await deleteSessions(context.database, person.id, besides);
  await noteAction(context.database, by, "sessions ended", person.name, { ended });
  await tellAccess(context, person.name);
  return ended;
}

/** Changes one's password; other sessions end. */
export async function changePassword(context: Context, user: User, wanted: string): Promise<void> {
  checkPassword(wanted, wordsAbout(user));
  await setPassword(context.database, user.id, await hashPassword(wanted));
  await noteAction(context.database, user.name, "password changed", user.name);
  await endSessions(context, user, user.token?.id ?? null, user.name);
}

function wordsAbout({
  name,
  shownName,
  address,
}: Pick<UserFacts, "shownName" | "address"> & { readonly name: string }) {
  return [name, ...(shownName ?? "").split(/\s+/), (address ?? "").split("@")[0] ?? ""];
}

/** A token for a script; its secret is told once. */
export async function makeToken(
  context: Context,
  user: User,
  wish: {
    readonly name: string;
    readonly roles?: Grants | undefined;
    readonly days: number | null;
    readonly perMinute: number | null;
  },
): Promise<{ readonly id: number; readonly secret: string }> {
  if (wish.roles) checkRoles(wish.roles, user);
  // What is asked with a token of some roles makes none of more.
  const roles = wish.roles ?? (user.grants === user.roles ? null : user.grants);
  const secret = newSecret();
  const id = await saveToken(context.database, user.id, {
    digest: digestOf(secret),
    kind: "client",
    days: wish.days,
    name: wish.name,
    roles,
    perMinute: wish.perMinute,
  });
  const { days, perMinute } = wish;
  await noteAction(context.database, user.name, "token made", wish.name, { roles, days, perMinute });
  return { id, secret };
}

/** A token that is the caller's, or anybody's for who may operate. Throws `NOT_FOUND`. */
export async function ownToken(context: Context, id: number, user: User, kind: TokenRow["kind"]): Promise<TokenRow> {
  const found = await tokenById(context.database, id);
  const isOwn = found?.userId === user.id || (kind === "client" && user.grants.operate === "all");
  if (found?.kind === kind && isOwn) return found;
  throw new CorbixError("NOT_FOUND", say().serviceAccess.cannotFindToken({ id }), { where: "tokens" });
}

export async function rotateToken(context: Context, token: TokenRow, keepHours: number, by: string): Promise<string> {
  const secret = newSecret();
  await replaceToken(context.database, token.id, digestOf(secret), keepHours);
  await noteAction(context.database, by, "token rotated", token.name ?? String(token.id), {
    person: token.person,
    keepHours,
  });
  return secret;
}

export async function endToken(context: Context, token: TokenRow, by: string): Promise<void> {
  await deleteTokenById(context.database, token.id);
  const what = token.kind === "session" ? "session ended" : "token revoked";
  await noteAction(context.database, by, what, token.name ?? String(token.id), { person: token.person });
  await tellAccess(context, token.person);
}

/** Nobody gives more than they have: who may operate for all may give anything. */
function checkRoles(roles: Grants, by: User): void {
  if (by.grants.operate === "all") return;
  const common = bothGrants(by.grants, roles);
  for (const role of ROLES) {
    const [wanted, had] = [roles[role], common[role]];
    if (wanted === undefined || wanted === had) continue;
    if (wanted !== "all" && had !== undefined && had !== "all" && wanted.every((report) => had.includes(report)))
      continue;
    throw new CorbixError(
      "NOT_ALLOWED",
      say().serviceAccess.cannotGiveMore({ role: say().serviceAccess.role({ role }) }),
      {
        where: "roles",
        advice: say().serviceAccess.askOperator(),
      },
    );
  }
}

/** What one may do is for others to say. */
export function checkOwnMatter(person: { readonly id: number }, by: User): void {
  if (person.id !== by.id) return;
  throw new CorbixError("NOT_ALLOWED", say().serviceAccess.notOneself(), {
    where: "people",
    advice: say().serviceAccess.askColleague(),
  });
}

function nobodyLeft(name: string): CorbixError {
  return new CorbixError("CONFLICT", say().serviceAccess.nobodyLeft({ name }), {
    where: "people",
    advice: say().serviceAccess.letAnotherOperate(),
  });
}

/** Whoever is signed in as somebody is looked at again at once. */
async function tellAccess(context: Context, name: string): Promise<void> {
  await announce(context.database, { kind: "access", subject: name });
}
