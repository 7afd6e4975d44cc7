/** Sending identities: whose name messages bear, through which server, how fast, and to whom at all. */

import { identitySecret, identitySettings } from "@corbix/api";
import { CorbixError, suggestName } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import type { z } from "zod";
import { noteAction } from "../audit/audit.js";
import { checkExpected } from "../library/expected.js";
import type { Context } from "../process/context.js";
import type { Settings } from "../process/settings.js";
import {
  addIdentity,
  allIdentities,
  type IdentityRow,
  replaceIdentity,
  setIdentityPaused,
  versionOf,
} from "../records/index.js";
import type { DkimKey } from "./dkim.js";
import type { MailServer } from "./smtp.js";

export type IdentitySettings = z.output<typeof identitySettings>;
type IdentitySecret = z.output<typeof identitySecret>;

export interface Identity {
  readonly name: string;
  readonly settings: IdentitySettings;
  readonly hasPassword: boolean;
  readonly hasDkimKey: boolean;
  readonly paused: boolean;
  readonly restUntil: Date | null;
  readonly restWhy: string | null;
  /** Whether it is being left alone now, by the database's clock. */
  readonly isResting: boolean;
}

/** An identity with all that sending needs. */
export interface OpenIdentity extends Identity {
  readonly server: MailServer;
  readonly dkim: DkimKey | undefined;
}

export async function identities(context: Context): Promise<Identity[]> {
  const found = await allIdentities(context.database);
  return found.map((record) => toIdentity(context, record));
}

/** Throws `NOT_FOUND` with the names there are. */
export async function getIdentity(context: Context, name: string): Promise<OpenIdentity> {
  const all = await allIdentities(context.database);
  const record = all.find((one) => one.name === name);
  if (!record)
    throw new CorbixError("NOT_FOUND", say().serviceMail.cannotFindSendingIdentity({ name }), {
      where: "identities",
      advice: suggestName(
        name,
        all.map((one) => one.name),
        "identities",
      ),
    });
  const secret = secretOf(context, record);
  const identity = toIdentity(context, record);
  const { dkim } = identity.settings;
  return {
    ...identity,
    server: serverOf(context.settings, identity.settings, secret),
    dkim: dkim && secret.dkimKey ? { ...dkim, privateKey: secret.dkimKey } : undefined,
  };
}

/** What tells one state of an identity's settings from another. */
export function identityVersion({ settings, hasPassword, hasDkimKey }: Identity): string {
  return versionOf({ settings, hasPassword, hasDkimKey });
}

/**
 * Sets an identity, new or known; secrets that are not given stay. Gives whether it is new. Throws `BAD_REQUEST`, or
 * `CHANGED_MEANWHILE` where it is not the expected version.
 */
export async function setIdentity(
  context: Context,
  name: string,
  { settings, secret }: { readonly settings: IdentitySettings; readonly secret: IdentitySecret },
  by: string,
  expected?: string,
): Promise<boolean> {
  for (;;) {
    const known = (await allIdentities(context.database)).find((one) => one.name === name);
    checkExpected(
      expected,
      known && identityVersion(toIdentity(context, known)),
      say().place.identity({ name }),
      undefined,
    );
    const kept = { ...(known ? secretOf(context, known) : {}), ...secret };
    if (settings.dkim && !kept.dkimKey)
      throw new CorbixError("BAD_REQUEST", say().serviceMail.cannotSignMessagesWithoutPrivate(), {
        where: say().serviceMail.identityDkim({ name }),
        advice: say().serviceMail.giveKeyPemTakeSignature(),
      });
    const sealed = Object.keys(kept).length > 0 ? context.secrets.seal(JSON.stringify(kept)) : null;
    const isKept = known
      ? await replaceIdentity(context.database, known, settings, sealed)
      : await addIdentity(context.database, name, settings, sealed);
    if (!isKept) continue;
    await noteAction(context.database, by, known ? "identity changed" : "identity added", name, settings);
    return known === undefined;
  }
}

export async function pauseIdentity(context: Context, name: string, paused: boolean, by: string): Promise<void> {
  await getIdentity(context, name);
  await setIdentityPaused(context.database, name, paused);
  await noteAction(context.database, by, paused ? "identity paused" : "identity resumed", name);
}

function toIdentity(context: Context, record: IdentityRow): Identity {
  const secret = secretOf(context, record);
  // An identity nothing was set for is that of the settings.
  const plain = { from: context.settings.mailFrom, perMinute: context.settings.mailPerMinute };
  return {
    name: record.name,
    settings: identitySettings.parse({ ...plain, ...record.settings }),
    hasPassword: secret.password !== undefined,
    hasDkimKey: secret.dkimKey !== undefined,
    paused: record.paused,
    restUntil: record.restUntil,
    restWhy: record.restWhy,
    isResting: record.isResting ?? false,
  };
}

function secretOf(context: Context, record: IdentityRow): IdentitySecret {
  return record.secret ? identitySecret.parse(JSON.parse(context.secrets.open(record.secret))) : {};
}

function serverOf(all: Settings, own: IdentitySettings, secret: IdentitySecret): MailServer {
  if (own.host !== undefined)
    return {
      host: own.host,
      port: own.port,
      security: own.security,
      user: own.user,
      password: secret.password,
      authority: own.authority,
    };
  if (all.mailUrl === undefined) return { host: "127.0.0.1", port: all.letterboxPort, security: "none" };
  const url = new URL(all.mailUrl);
  const isLocal = /^(?:localhost|127\.\d+\.\d+\.\d+|\[::1\])$/.test(url.hostname);
  const isTls = url.protocol === "smtps:";
  return {
    host: url.hostname,
    port: Number(url.port || (isTls ? 465 : 587)),
    security: isTls ? "tls" : isLocal ? "none" : "starttls",
    user: url.username === "" ? undefined : decodeURIComponent(url.username),
    password: url.password === "" ? undefined : decodeURIComponent(url.password),
  };
}

/** Whether an identity may send to an address. */
export function mayReceive({ domains }: IdentitySettings, address: string): boolean {
  if (domains.length === 0) return true;
  const own = address.slice(address.lastIndexOf("@") + 1).toLowerCase();
  return domains.some((allowed) => own === allowed || own.endsWith(`.${allowed}`));
}
