/** Ways out besides mail: folders, WebDAV, SFTP, uploads over HTTP. */
import { z } from "zod";
import { byName, count, instant, name, page, paging } from "./common.js";
import { endpoint } from "./endpoint.js";

const pace = {
  perMinute: z.number().min(0.1).max(100_000).default(600).describe("Pace: groups a minute."),
  connections: z.number().int().min(1).max(20).default(2).describe("Groups whose files are on their way at once."),
  patienceHours: z
    .number()
    .min(0)
    .max(240)
    .default(48)
    .describe("How long what cannot be put there for now is tried again."),
  firstPause: z
    .number()
    .min(0.1)
    .max(3600)
    .default(30)
    .describe("Seconds before the first new try; each further pause is twice as long, up to half an hour."),
};
const webAddress = z
  .url({ protocol: /^https?$/ })
  .max(2_000)
  .refine((address) => !/^[^/]*\/\/[^/]*@/.test(address), "expected an address without name and password in it");
const authority = z.string().max(20_000).optional().describe("Certificate authority of one's own, as PEM.");
const user = z.string().min(1).max(300).optional().describe("Sign-in there.");

/** Where files are put, and how. */
export const wayOutSettings = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("folder"),
    folder: z.string().max(500).default("").describe("Folder below the one the service may write to."),
    ...pace,
  }),
  z.strictObject({ kind: z.literal("web-dav"), address: webAddress, user, authority, ...pace }),
  z.strictObject({
    kind: z.literal("sftp"),
    host: z.string().min(1).max(255),
    port: z.number().int().min(1).max(65_535).default(22),
    user: z.string().min(1).max(300),
    hostKey: z
      .string()
      .regex(/^SHA256:[A-Za-z0-9+/]{43}=?$/, "expected a fingerprint, such as SHA256: and 43 signs")
      .describe("Fingerprint of the server's key; a server with another one is not spoken to."),
    folder: z.string().max(500).default("").describe("Folder there; the one after signing in if left out."),
    ...pace,
  }),
  z.strictObject({
    kind: z.literal("http"),
    address: webAddress.describe("PUT: each file's path is added to it. POST: every file goes to it."),
    method: z
      .enum(["PUT", "POST"])
      .default("PUT")
      .describe("PUT can be repeated safely; of a POST whose answer is lost nobody knows."),
    user,
    headers: z
      .record(
        z.string().regex(/^[A-Za-z0-9-]{1,60}$/, "expected a header's name"),
        z
          .string()
          .max(500)
          .regex(/^[\x20-\x7e]*$/, "expected one line of plain characters"),
      )
      .default({})
      .describe("Further headers of each request; none that hold a secret."),
    authority,
    ...pace,
  }),
]);

export const wayOutSecret = z.strictObject({
  password: z.string().max(1_000).optional(),
  privateKey: z.string().max(20_000).optional().describe("Of SFTP: private key as PEM or in OpenSSH's form."),
  passphrase: z.string().max(1_000).optional().describe("Of the private key."),
  token: z
    .string()
    .max(4_000)
    .regex(/^[\x21-\x7e]*$/, "expected one word")
    .optional()
    .describe("Of HTTP: sent as a bearer token (RFC 6750)."),
});

const wayOut = z
  .strictObject({
    name,
    settings: z
      .strictObject({
        kind: z.enum(["folder", "web-dav", "sftp", "http"]),
        folder: z.string().optional(),
        address: z.string().optional(),
        host: z.string().optional(),
        port: count.optional(),
        user: z.string().optional(),
        hostKey: z.string().optional(),
        method: z.enum(["PUT", "POST"]).optional(),
        headers: z.record(z.string(), z.string()).optional(),
        authority: z.string().optional(),
        perMinute: z.number(),
        connections: count,
        patienceHours: z.number(),
        firstPause: z.number(),
      })
      .meta({ id: "WayOutSettings" }),
    place: z.string().describe("Where it leads, in words."),
    secrets: z.array(z.enum(["password", "privateKey", "passphrase", "token"])).describe("Secrets that are kept."),
    reports: z.array(z.string()).describe("Reports whose files go there."),
    paused: z.boolean(),
    restUntil: instant.nullable(),
    restWhy: z.string().nullable(),
    isResting: z.boolean().describe("Whether it is being left alone now."),
    waiting: count,
    sending: count,
  })
  .meta({ id: "WayOut" });

export const wayEndpoints = {
  listWaysOut: endpoint("get", "/ways-out", {
    summary: "Ways out besides mail, with what waits for them",
    tag: "Ways out",
    query: paging,
    answer: page(wayOut),
  }),
  showWayOut: endpoint("get", "/ways-out/{name}", {
    summary: "A way out with what waits for it",
    tag: "Ways out",
    params: byName,
    answer: wayOut,
    version: "told",
  }),
  saveWayOut: endpoint("put", "/ways-out/{name}", {
    summary: "Set a way out, new or known; secrets that are not given stay",
    tag: "Ways out",
    params: byName,
    body: z.strictObject({ settings: wayOutSettings, secret: wayOutSecret.default({}) }),
    answer: wayOut,
    statuses: [200, 201],
    version: "matched",
  }),
  removeWayOut: endpoint("delete", "/ways-out/{name}", {
    summary: "Take a way out away, where no report needs it and nothing waits for it",
    tag: "Ways out",
    params: byName,
    answer: z.strictObject({ name }),
  }),
  tryWayOut: endpoint("post", "/ways-out/{name}/try", {
    summary: "See whether it can be reached and written to: a small file is put there and taken away again",
    tag: "Ways out",
    params: byName,
    answer: z.strictObject({ words: z.string().describe("What came of it.") }),
  }),
  hostKeyOf: endpoint("post", "/host-keys", {
    summary: "Fingerprint that an SFTP server shows, to be compared with what its keeper says",
    tag: "Ways out",
    body: z.strictObject({
      host: z.string().min(1).max(255),
      port: z.number().int().min(1).max(65_535).default(22),
    }),
    answer: z.strictObject({ hostKey: z.string() }),
  }),
  pauseWayOut: endpoint("post", "/ways-out/{name}/pause", {
    summary: "Let what goes there wait",
    tag: "Ways out",
    params: byName,
    answer: wayOut,
  }),
  resumeWayOut: endpoint("post", "/ways-out/{name}/resume", {
    summary: "Let what goes there go on, at once",
    tag: "Ways out",
    params: byName,
    answer: wayOut,
  }),
};
