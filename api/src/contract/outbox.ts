import { z } from "zod";
import {
  byName,
  byRowId,
  count,
  day,
  instant,
  name,
  page,
  paging,
  period,
  reason,
  rowId,
  runId,
  whole,
} from "./common.js";
import { endpoint } from "./endpoint.js";
import { attempt, messageFacts, messageState } from "./runs.js";

const outboxEntry = z
  .strictObject({
    ...messageFacts,
    runId,
    parcel: whole,
    report: z.string(),
    period: z.string(),
    label: z.string(),
    rehearsalTo: z.string().nullable(),
    attachments: z.array(z.string()),
    touchedAt: instant,
    notBefore: instant.nullable().describe("When it is tried next."),
  })
  .meta({ id: "OutboxEntry" });

const reported = z.strictObject({
  address: z.string(),
  action: z.enum(["failed", "delayed", "delivered", "relayed", "expanded"]),
  status: z.string(),
  words: z.string(),
});

const message = z
  .strictObject({
    ...messageFacts,
    runId,
    groupKey: z.string(),
    language: z.string().nullable(),
    html: z.string(),
    text: z.string(),
    releasedAt: instant.nullable(),
    touchedAt: instant,
    notBefore: instant.nullable(),
    datedAt: instant.nullable().describe("The date it bears."),
    sha256: z.string().nullable().describe("Of its bytes as sent."),
    isKept: z.boolean().describe("Whether its bytes as sent are kept."),
    trail: z.array(attempt),
    reports: z.array(z.strictObject({ id: rowId, at: instant, recipients: z.array(reported) })),
    downloads: z.array(z.strictObject({ at: instant, path: z.string() })),
  })
  .meta({ id: "Message" });

const domain = z
  .string()
  .regex(/^(?:[\p{L}\p{N}-]+\.)*[\p{L}\p{N}-]+$/u, "expected a domain, such as lifts.example")
  .transform((text) => text.toLowerCase());

/** What is set for an identity; all of it is shown, unlike its passwords. */
export const identitySettings = z.strictObject({
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

export const identitySecret = z.strictObject({
  password: z.string().max(1_000).optional(),
  dkimKey: z.string().max(20_000).optional().describe("Private key as PEM."),
});

/** Settings as they are told: with everything that was left out filled in. */
const toldSettings = z
  .strictObject({
    from: z.string(),
    host: z.string().optional(),
    port: whole,
    security: z.enum(["tls", "starttls", "none"]),
    authority: z.string().optional(),
    user: z.string().optional(),
    senders: z.array(z.string()),
    domains: z.array(z.string()),
    perMinute: z.number(),
    perHour: z.number().optional(),
    connections: whole,
    patienceHours: z.number(),
    firstPause: z.number(),
    maxBytes: whole,
    tooLarge: z.enum(["stop", "zip", "link"]),
    dkim: z.strictObject({ domain: z.string(), selector: z.string() }).optional(),
  })
  .meta({ id: "IdentitySettings" });

const identity = z
  .strictObject({
    name,
    settings: toldSettings,
    hasPassword: z.boolean(),
    hasDkimKey: z.boolean(),
    paused: z.boolean(),
    restUntil: instant.nullable(),
    restWhy: z.string().nullable(),
    isResting: z.boolean().describe("Whether its server is being left alone now."),
    waiting: count,
    sending: count,
    held: count.describe("Messages of paused runs."),
    sentInHour: count,
    secondsLeft: z.number().nullable().describe("Until all that waits has gone; null while it is paused."),
  })
  .meta({ id: "Identity" });

/** What the letterbox is told to do wrong. */
export const letterboxRule = z.strictObject({
  does: z
    .enum([
      "refuse",
      "defer",
      "full",
      "slow",
      "slow-answer",
      "throttle",
      "break-before",
      "break-within",
      "break-after",
      "lose",
      "bounce",
      "refuse-data",
      "defer-data",
    ])
    .describe(
      "refuse, defer or full: an answer to an address (550, 451, 452). slow: waits before it answers a sender; slow-answer: after it has kept the message. throttle: 421 to whoever sends more than a few a second. break-before, break-within, break-after: the connection ends before, in the middle of, and after the data, which is kept then; lose: after the data, which is not kept. bounce: takes it, and sends a report of non-delivery. refuse-data, defer-data: an answer to the data (554, 451).",
    ),
  to: z.string().max(300).optional().describe("Only addresses that hold this text."),
  subject: z.string().max(300).optional().describe("Only subjects that hold this text; for rules about the data."),
  share: z.number().min(0).max(1).default(1).describe("Only this share of messages, by chance."),
  times: z.number().int().min(1).optional().describe("Only so often, then no more."),
  seconds: z.number().min(0).max(600).default(2).describe("Of slow and slow-answer: how long it waits."),
  perSecond: z.number().min(0.1).max(10_000).default(5).describe("Of throttle: how many it takes."),
  says: z
    .string()
    .max(200)
    .regex(/^[\x20-\x7e]*$/, "expected one line of plain characters")
    .optional()
    .describe("Words of the answer."),
});

const keptRule = z.strictObject({ id: whole, used: count, rule: letterboxRule }).meta({ id: "LetterboxRule" });
const byRule = z.strictObject({ id: z.coerce.number().int().min(1).max(2_147_483_647) });

const letter = {
  id: rowId,
  receivedAt: instant,
  mailFrom: z.string(),
  rcptTo: z.array(z.string()),
  subject: z.string(),
  messageId: z.string(),
  size: count,
};

export const outboxEndpoints = {
  listOutbox: endpoint("get", "/outbox", {
    summary:
      "Messages by person, group, file, report, period and state: what was sent, when, and what the server said. Those in trouble come first, then those on their way, then the newest",
    tag: "Outbox",
    query: paging.extend({
      person: z.string().max(200).optional().describe("Part of a name or address."),
      group: z.string().max(200).optional().describe("Part of a group's name."),
      file: z.string().max(200).optional().describe("Part of an attached file's name."),
      report: z.string().max(200).optional(),
      period: period.optional().describe("Such as 2026-10."),
      run: runId.optional(),
      state: messageState.optional(),
      from: day.optional().describe("First day on which it was touched last."),
      until: day.optional().describe("Last such day."),
    }),
    answer: page(outboxEntry),
  }),
  showMessage: endpoint("get", "/messages/{id}", {
    summary: "A message with its attempts and the reports that came back",
    tag: "Outbox",
    params: byRowId,
    answer: message,
  }),
  downloadMessage: endpoint("get", "/messages/{id}/raw", {
    summary: "A message's bytes as .eml: as they were sent, or as they would go now",
    tag: "Outbox",
    params: byRowId,
    answer: "message/rfc822",
  }),
  decideMessage: endpoint("post", "/messages/{id}/decide", {
    summary: "Decide a message nobody can know about: it arrived, or it shall go again",
    tag: "Outbox",
    params: byRowId,
    body: z.strictObject({ as: z.enum(["arrived", "again"]), reason: reason.optional() }),
    answer: z.strictObject({ state: messageState }),
    isOnce: true,
  }),
  sendAgain: endpoint("post", "/messages/{id}/again", {
    summary:
      "Send a message once more on purpose, with a reason: as a first time to whom it never reached, else marked as sent again",
    tag: "Outbox",
    params: byRowId,
    body: z.strictObject({
      reason,
      corrections: z
        .array(z.strictObject({ address: z.string().max(320), to: z.string().trim().max(320) }))
        .max(100)
        .default([])
        .describe("Addresses that it did not reach, and those it goes to instead."),
      inList: z.boolean().default(false).describe("Whether the shared recipient list is corrected as well."),
    }),
    answer: z.strictObject({
      id: rowId,
      as: z.enum(["first", "repeat"]),
      entries: count.describe("Entries of the list that were corrected."),
    }),
    statuses: [201],
    isOnce: true,
  }),
  takeDeliveryReport: endpoint("post", "/delivery-reports", {
    summary: "Take a report of delivery (RFC 3464) as it came by mail",
    tag: "Outbox",
    body: "bytes",
    answer: z.strictObject({
      message: rowId.nullable().describe("The message it is about; null where none of ours is found."),
      recipients: z.array(reported),
    }),
  }),
  listIdentities: endpoint("get", "/identities", {
    summary: "Sending identities with what waits for them",
    tag: "Identities",
    query: paging,
    answer: page(identity),
  }),
  showIdentity: endpoint("get", "/identities/{name}", {
    summary: "A sending identity with what waits for it",
    tag: "Identities",
    params: byName,
    answer: identity,
    version: "told",
  }),
  saveIdentity: endpoint("put", "/identities/{name}", {
    summary: "Set a sending identity, new or known; secrets that are not given stay",
    tag: "Identities",
    params: byName,
    body: z.strictObject({ settings: identitySettings, secret: identitySecret.default({}) }),
    answer: identity,
    statuses: [200, 201],
    version: "matched",
  }),
  pauseIdentity: endpoint("post", "/identities/{name}/pause", {
    summary: "Let an identity's messages wait",
    tag: "Identities",
    params: byName,
    answer: identity,
  }),
  resumeIdentity: endpoint("post", "/identities/{name}/resume", {
    summary: "Let an identity's messages go on, at once",
    tag: "Identities",
    params: byName,
    answer: identity,
  }),
  listLetterboxRules: endpoint("get", "/letterbox/rules", {
    summary: "What the letterbox does wrong on purpose",
    tag: "Letterbox",
    query: paging,
    answer: page(keptRule),
  }),
  addLetterboxRule: endpoint("post", "/letterbox/rules", {
    summary: "Let the letterbox do something wrong: refuse, be slow, break the line, send messages back",
    tag: "Letterbox",
    body: letterboxRule,
    answer: keptRule,
    statuses: [201],
  }),
  showLetterboxRule: endpoint("get", "/letterbox/rules/{id}", {
    summary: "A rule of the letterbox with how often it was used",
    tag: "Letterbox",
    params: byRule,
    answer: keptRule,
  }),
  removeLetterboxRule: endpoint("delete", "/letterbox/rules/{id}", {
    summary: "Take a rule of the letterbox away",
    tag: "Letterbox",
    params: byRule,
    answer: z.strictObject({ id: whole }),
  }),
  listLetters: endpoint("get", "/letters", {
    summary: "What the letterbox got, newest first",
    tag: "Letterbox",
    query: paging.extend({ search: z.string().max(200).optional().describe("Part of a subject or an address.") }),
    answer: page(z.strictObject({ ...letter, attachments: count }).meta({ id: "LetterSummary" })),
  }),
  showLetter: endpoint("get", "/letters/{id}", {
    summary: "A letter as HTML and text, with its headers and attachments",
    tag: "Letterbox",
    params: byRowId,
    answer: z
      .strictObject({
        ...letter,
        html: z.string().nullable(),
        text: z.string(),
        headers: z.array(z.string()),
        attachments: z.array(
          z.strictObject({ index: count, filename: z.string(), contentType: z.string(), size: count }),
        ),
      })
      .meta({ id: "Letter" }),
  }),
  downloadLetter: endpoint("get", "/letters/{id}/raw", {
    summary: "A letter as it came in, as .eml",
    tag: "Letterbox",
    params: byRowId,
    answer: "message/rfc822",
  }),
  downloadLetterAttachment: endpoint("get", "/letters/{id}/attachments/{index}", {
    summary: "An attachment of a letter",
    tag: "Letterbox",
    params: byRowId.extend({ index: z.coerce.number().int().min(0) }),
    answer: "application/octet-stream",
  }),
};
