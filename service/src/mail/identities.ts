/** Sending identities: whose name messages bear, through which server, how fast, and to whom at all. */
import { CorbixError, suggestName } from "@corbix/core/common";
import { describeProblems } from "@corbix/core/report";
import { z } from "zod";
import { noteAction } from "../audit/audit.js";
import type { Context } from "../process/context.js";
import type { Settings } from "../process/settings.js";
import type { DkimKey } from "./dkim.js";
import type { MailServer } from "./smtp.js";

const domain = z
  .string()
  .regex(/^(?:[\p{L}\p{N}-]+\.)*[\p{L}\p{N}-]+$/u, "expected a domain, such as lifts.example")
  .transform((text) => text.toLowerCase());

/** What is set for an identity; all of it is shown, unlike its passwords. */
export const identitySchema = z.strictObject({
  from: z
    .string()
    .max(300)
    .regex(/^[^\r\n]*[^\s@<>]+@[^\s@<>]+>?$/, "expected a sender, such as Office <office@lifts.example>")
    .describe("Whose name messages bear."),
  host: z
    .string()
    .min(1)
    .max(255)
    .optional()
    .describe("Mail server; without it the one of the settings, or the letterbox."),
  port: z.number().int().min(1).max(65_535).default(587),
  security: z
    .enum(["tls", "starttls", "none"])
    .default("starttls")
    .describe("How the line is encrypted; with tls and starttls the server's certificate is checked."),
  authority: z.string().max(20_000).optional().describe("Certificate authority of one's own, as PEM."),
  user: z.string().max(300).optional().describe("Sign-in at the server."),
  senders: z.array(z.email()).default([]).describe("Other addresses that a report may send as."),
  domains: z
    .array(domain)
    .default([])
    .describe("Domains messages may go to, with those below them; all, if none is named."),
  perMinute: z.number().min(0.1).max(100_000).default(600).describe("Pace: messages a minute."),
  perHour: z.number().int().min(1).max(1_000_000).optional().describe("Messages in any sixty minutes."),
  connections: z.number().int().min(1).max(20).default(4).describe("Connections held open to the server at once."),
  patienceHours: z
    .number()
    .min(0)
    .max(120)
    .default(24)
    .describe("How long a message that is refused for now is tried again."),
  firstPause: z
    .number()
    .min(0.1)
    .max(3600)
    .default(15)
    .describe("Seconds before the first new try; each further pause is twice as long, up to half an hour."),
  maxBytes: z.number().int().min(10_000).default(25_000_000).describe("Largest message the server takes, in bytes."),
  tooLarge: z
    .enum(["stop", "zip", "link"])
    .default("stop")
    .describe("What is done with a larger one: stop the release, zip the attachments, or put links in place of them."),
  dkim: z
    .strictObject({ domain, selector: z.string().regex(/^[A-Za-z0-9._-]+$/) })
    .optional()
    .describe("Signature of the domain (RFC 6376); its private key is kept apart."),
});

export type IdentitySettings = z.output<typeof identitySchema>;

export const identitySecretSchema = z.strictObject({
  password: z.string().max(1_000).optional(),
  dkimKey: z.string().max(20_000).optional().describe("Private key as PEM."),
});
type IdentitySecret = z.output<typeof identitySecretSchema>;

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

interface IdentityRecord {
  readonly name: string;
  readonly settings: object;
  readonly secret: string | null;
  readonly paused: boolean;
  readonly rest_until: Date | null;
  readonly rest_why: string | null;
  readonly is_resting?: boolean | null;
}

/** A rest is never longer than some minutes: one that seems so was written by a clock that has been set back since. */
const IDENTITIES = `SELECT *, rest_until > now() AND rest_until < now() + interval '10 minutes' AS is_resting FROM identities`;

/** An identity with all that sending needs. */
export interface OpenIdentity extends Identity {
  readonly server: MailServer;
  readonly dkim: DkimKey | undefined;
}

export async function identities(context: Context): Promise<Identity[]> {
  const found = await context.database.select<IdentityRecord>(`${IDENTITIES} ORDER BY name`);
  return found.map((record) => toIdentity(context, record));
}

/** Throws `NOT_FOUND` with the names there are. */
export async function getIdentity(context: Context, name: string): Promise<OpenIdentity> {
  const all = await context.database.select<IdentityRecord>(`${IDENTITIES} ORDER BY name`);
  const record = all.find((one) => one.name === name);
  if (!record)
    throw new CorbixError("NOT_FOUND", `Cannot find the sending identity \`${name}\`.`, {
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

/** Sets an identity, new or known; secrets that are not given stay. Throws `BAD_REQUEST`. */
export async function setIdentity(
  context: Context,
  name: string,
  settings: unknown,
  secret: IdentitySecret,
  by: string,
): Promise<void> {
  const checked = identitySchema.safeParse(settings);
  if (!checked.success)
    throw new CorbixError("BAD_REQUEST", `Cannot set the identity: ${describeProblems(checked.error)}.`, {
      where: `identity ${name}`,
    });
  const [known] = await context.database.select<IdentityRecord>(`${IDENTITIES} WHERE name = $1`, [name]);
  const kept = { ...(known ? secretOf(context, known) : {}), ...secret };
  if (checked.data.dkim && !kept.dkimKey)
    throw new CorbixError("BAD_REQUEST", "Cannot sign messages without a private key.", {
      where: `identity ${name}, dkim`,
      advice: "Give the key as PEM, or take the signature out.",
    });
  await context.database.execute(
    "INSERT INTO identities (name, settings, secret) VALUES ($1, $2, $3) ON CONFLICT (name) DO UPDATE SET settings = excluded.settings, secret = excluded.secret, rest_until = NULL, rest_why = NULL, failures = 0",
    [
      name,
      JSON.stringify(checked.data),
      Object.keys(kept).length > 0 ? context.secrets.seal(JSON.stringify(kept)) : null,
    ],
  );
  await noteAction(context.database, by, known ? "identity changed" : "identity added", name, checked.data);
}

export async function pauseIdentity(context: Context, name: string, paused: boolean, by: string): Promise<void> {
  await getIdentity(context, name);
  // Whoever resumes wants it to go on now, whatever it was resting for.
  await context.database.execute(
    "UPDATE identities SET paused = $2, rest_until = NULL, rest_why = NULL, failures = 0 WHERE name = $1",
    [name, paused],
  );
  await noteAction(context.database, by, paused ? "identity paused" : "identity resumed", name);
}

function toIdentity(context: Context, record: IdentityRecord): Identity {
  const secret = secretOf(context, record);
  // An identity nothing was set for is that of the settings.
  const plain = { from: context.settings.mailFrom, perMinute: context.settings.mailPerMinute };
  return {
    name: record.name,
    settings: identitySchema.parse({ ...plain, ...record.settings }),
    hasPassword: secret.password !== undefined,
    hasDkimKey: secret.dkimKey !== undefined,
    paused: record.paused,
    restUntil: record.rest_until,
    restWhy: record.rest_why,
    isResting: record.is_resting ?? false,
  };
}

function secretOf(context: Context, record: IdentityRecord): IdentitySecret {
  return record.secret ? identitySecretSchema.parse(JSON.parse(context.secrets.open(record.secret))) : {};
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
