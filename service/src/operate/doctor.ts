/** Looks a setup through: what the service needs on this machine, and what mail servers will think of it. */

import { promises as dns } from "node:dns";
import { constants } from "node:fs";
import { access, mkdir, readdir, stat, statfs } from "node:fs/promises";
import { join } from "node:path";
import { CorbixError, wordsOf } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { keyMark } from "../access/secrets.js";
import { JOURNAL_FOLDER, journalFiles } from "../journal/journal.js";
import { type Judged, judgeDkim, judgeDmarc, judgeSpf } from "../mail/domain-records.js";
import { getIdentity } from "../mail/identities.js";
import { tryServer } from "../mail/smtp.js";
import { openCertificates } from "../process/certificates.js";
import type { Context } from "../process/context.js";
import { closeContext, openContext } from "../process/open-context.js";
import type { Settings } from "../process/settings.js";
import { isByTls } from "../process/site.js";
import {
  type Asking,
  allIdentities,
  isHalted,
  knownKeyMark,
  migrationsOf,
  openAsking,
  pendingMigrations,
  serverFacts,
  serverSettings,
} from "../records/index.js";
import { databaseProgram, majorOf } from "./programs.js";

export interface Examined extends Judged {
  readonly name: string;
}

export interface DoctorOptions {
  readonly settings: Settings;
  readonly databaseUrl: string;
  /** Asks for the texts at a name of the DNS; throws with `code` `ENOTFOUND` or `ENODATA` where there are none. */
  readonly resolveTxt?: (name: string) => Promise<string[][]>;
}

const OLDEST_SERVER = 13;
const NEEDED_CONNECTIONS = 60;
/** Everything that was looked at, in order; what needs something that is not there is left out. */
export async function examine(options: DoctorOptions): Promise<Examined[]> {
  const found: Examined[] = [];
  const note = (name: string, judged: Judged): void => void found.push({ name, ...judged });
  const { settings } = options;
  note("Node.js", judgeNode());
  note(say().serviceOperate.dataFolder(), await judgeFolder(settings.data));
  note(say().serviceOperate.publicAddress(), judgeAddress(settings));
  const certificate = judgeCertificate(settings);
  if (certificate) note(say().serviceOperate.certificate(), certificate);
  const asking = await openAsking(options.databaseUrl).catch((error: CorbixError) => error);
  if (asking instanceof CorbixError) {
    note("PostgreSQL", { state: "fail", what: asking.message, advice: asking.advice ?? null });
    return found;
  }
  try {
    await examineDatabase(asking, note);
    const known = await migrationsOf(asking);
    const pending = pendingMigrations(known);
    if (pending.length > 0) {
      note(say().serviceOperate.structure(), {
        state: known.length === 0 ? "ok" : "warn",
        what:
          known.length === 0
            ? say().serviceOperate.emptyDatabase()
            : say().serviceOperate.olderStructure({ count: pending.length }),
        advice: known.length === 0 ? null : say().serviceOperate.runUpgrade(),
      });
      return found;
    }
    note(say().serviceOperate.structure(), fine(say().serviceOperate.newestStructure({ name: known.at(-1) ?? "" })));
    note(say().serviceOperate.key(), await judgeKey(asking, settings));
  } finally {
    await asking.close();
  }
  if (found.every(({ name, state }) => name !== say().serviceOperate.key() || state !== "fail"))
    await examineService(options, note);
  return found;
}

const fine = (what: string): Judged => ({ state: "ok", what, advice: null });

function judgeNode(): Judged {
  const [major = 0, minor = 0] = process.versions.node.split(".").map(Number);
  return major > 20 || (major === 20 && minor >= 20)
    ? fine(process.version)
    : { state: "fail", what: process.version, advice: say().serviceOperate.nodeTooOld() };
}

async function judgeFolder(data: string): Promise<Judged> {
  try {
    await mkdir(data, { recursive: true, mode: 0o700 });
    await access(data, constants.R_OK | constants.W_OK | constants.X_OK);
    const { bavail, bsize } = await statfs(data);
    const { mode } = await stat(data);
    const what = say().serviceOperate.folderFacts({ path: data, free: bavail * bsize });
    if (bavail * bsize < 2 ** 30) return { state: "warn", what, advice: say().serviceOperate.makeRoom() };
    return (mode & 0o006) === 0
      ? fine(what)
      : { state: "warn", what, advice: say().serviceOperate.closeFolder({ path: data }) };
  } catch (error) {
    return { state: "fail", what: wordsOf(error), advice: say().serviceOperate.letWrite({ path: data }) };
  }
}

function judgeAddress(settings: Settings): Judged {
  const isOpen = !/^(?:127\.|::1$|localhost$)/.test(settings.host);
  if (settings.publicUrl === undefined)
    return { state: "warn", what: say().serviceOperate.noAddress(), advice: say().serviceOperate.setAddress() };
  if (!isByTls(settings)) return { state: "warn", what: settings.publicUrl, advice: say().serviceOperate.useTls() };
  if (isOpen && settings.tlsCertificate === undefined)
    return {
      state: "warn",
      what: say().serviceOperate.openHost({ host: settings.host }),
      advice: say().serviceOperate.closeHost(),
    };
  return fine(settings.publicUrl);
}

function judgeCertificate(settings: Settings): Judged | undefined {
  try {
    return openCertificates(settings) ? fine(settings.tlsCertificate ?? "") : undefined;
  } catch (error) {
    const { message, advice } = error as CorbixError;
    return { state: "fail", what: message, advice: advice ?? null };
  }
}

async function examineDatabase(asking: Asking, note: (name: string, judged: Judged) => void): Promise<void> {
  const { version } = await serverFacts(asking);
  const { encoding, connections, fsync } = await serverSettings(asking);
  note(
    "PostgreSQL",
    majorOf(version) < OLDEST_SERVER
      ? { state: "fail", what: version, advice: say().serviceOperate.serverTooOld({ oldest: OLDEST_SERVER }) }
      : fine(version),
  );
  if (encoding !== "UTF8")
    note(say().serviceOperate.encoding(), { state: "fail", what: encoding, advice: say().serviceOperate.useUtf8() });
  if (connections < NEEDED_CONNECTIONS)
    note(say().serviceOperate.connections(), {
      state: "warn",
      what: String(connections),
      advice: say().serviceOperate.moreConnections({ needed: NEEDED_CONNECTIONS }),
    });
  if (!fsync) note("fsync", { state: "fail", what: "off", advice: say().serviceOperate.turnFsyncOn() });
  note(
    say().serviceOperate.backups(),
    await databaseProgram("pg_dump", version).then(fine, ({ message, advice }: CorbixError) => ({
      state: "warn" as const,
      what: message,
      advice: advice ?? null,
    })),
  );
}

async function judgeKey(asking: Asking, settings: Settings): Promise<Judged> {
  const known = await knownKeyMark(asking);
  const own = await keyMark(settings.data, settings.secretKey);
  if (known !== null && known !== own)
    return { state: "fail", what: say().serviceAccess.otherKey(), advice: say().serviceAccess.restoreKeyOrForget() };
  return settings.secretKey === undefined
    ? { state: "ok", what: say().serviceOperate.keyInFolder(), advice: say().serviceOperate.keepCopy() }
    : fine(say().serviceOperate.keyFromSettings());
}

/** What needs the service's own parts: store, journal, fonts, mail. Nothing is changed by it. */
async function examineService(
  { settings, databaseUrl, resolveTxt = dns.resolveTxt }: DoctorOptions,
  note: (name: string, judged: Judged) => void,
): Promise<void> {
  const context = await openContext({ ...settings, logLevel: "silent" }, databaseUrl, { supervise: false });
  const tried = (work: Promise<string>): Promise<Judged> =>
    work.then(fine, (error: unknown) => ({
      state: "fail" as const,
      what: wordsOf(error),
      advice: error instanceof CorbixError ? (error.advice ?? null) : null,
    }));
  try {
    note(
      say().serviceOperate.fileStore(),
      await tried(context.store.probe().then(() => say().serviceHealth.writable())),
    );
    const journal = await journalFiles(join(settings.data, JOURNAL_FOLDER));
    note(say().serviceOperate.journal(), fine(say().serviceOperate.journalFacts({ count: journal.length })));
    const own = await readdir(join(settings.data, settings.fonts)).catch(() => []);
    note(say().serviceOperate.fonts(), await tried(fontsOf(context, own.length)));
    if (await isHalted(context.database))
      note(say().serviceOperate.sending(), {
        state: "warn",
        what: say().serviceHealth.halted(),
        advice: say().serviceJournal.lookThenGoOn(),
      });
    for (const { name } of await allIdentities(context.database)) {
      const sender = await getIdentity(context, name);
      const place = say().place.identity({ name });
      note(`${place}, ${sender.server.host}:${sender.server.port}`, await judgeServer(sender.server));
      const domain = /@([^\s@<>]+)>?$/.exec(sender.settings.from)?.[1]?.toLowerCase() ?? "";
      // Nobody asks about a domain that is there for examples (RFC 2606), or about one's own machine's.
      if (/(?:^|\.)(?:example|invalid|localhost|test)$/.test(domain)) {
        note(`${place}, ${domain}`, {
          state: "warn",
          what: say().serviceOperate.exampleDomain({ domain }),
          advice: say().serviceOperate.setSender(),
        });
        continue;
      }
      const texts = async (at: string): Promise<string[]> => {
        try {
          return (await resolveTxt(at)).map((pieces) => pieces.join(""));
        } catch (error) {
          if (["ENOTFOUND", "ENODATA"].includes((error as { code?: string }).code ?? "")) return [];
          throw error;
        }
      };
      const asked = (work: Promise<Judged>): Promise<Judged> =>
        work.catch((error: unknown) => ({
          state: "warn" as const,
          what: say().serviceOperate.cannotAsk({ why: wordsOf(error) }),
          advice: say().serviceOperate.askElsewhere(),
        }));
      note(`${place}, SPF`, await asked(texts(domain).then((all) => judgeSpf(domain, all))));
      const { dkim } = sender;
      if (dkim)
        note(
          `${place}, DKIM`,
          await asked(texts(`${dkim.selector}._domainkey.${dkim.domain}`).then((all) => judgeDkim(dkim, all))),
        );
      else
        note(`${place}, DKIM`, {
          state: "warn",
          what: say().serviceOperate.unsigned(),
          advice: say().serviceOperate.signMessages(),
        });
      note(
        `${place}, DMARC`,
        await asked(texts(`_dmarc.${domain}`).then((all) => judgeDmarc(domain, all, dkim !== undefined))),
      );
    }
  } finally {
    await closeContext(context);
  }
}

/** Opens all fonts: one that cannot be read says so. */
async function fontsOf(context: Context, count: number): Promise<string> {
  context.fonts();
  return say().serviceOperate.fontFacts({ count });
}

async function judgeServer(server: Parameters<typeof tryServer>[0]): Promise<Judged> {
  const trouble = await tryServer(server);
  if (trouble !== undefined) return { state: "fail", what: trouble, advice: say().serviceOperate.correctIdentity() };
  const isLocal = /^(?:127\.|::1$|localhost$)/.test(server.host);
  return server.security === "none" && !isLocal
    ? { state: "warn", what: say().serviceOperate.openLine(), advice: say().serviceOperate.useStarttls() }
    : fine(say().serviceOperate.serverTakes({ security: server.security, user: server.user }));
}
