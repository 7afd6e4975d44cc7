/** A setup is looked through: what is well, what is worth a look, what is wrong, each with what to do. */
import { generateKeyPairSync, randomBytes } from "node:crypto";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { SMTPServer } from "smtp-server";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { makeDatabase } from "../../../scripts/lib/postgres.mjs";
import { type TestService, testService } from "../../../test/setup/service.js";
import { judgeDkim, judgeDmarc, judgeSpf } from "../../dist/mail/domain-records.js";
import { examine } from "../../dist/operate/doctor.js";

const { privateKey, publicKey } = generateKeyPairSync("rsa", { modulusLength: 2048 });
const pem = privateKey.export({ type: "pkcs8", format: "pem" }) as string;
const shown = (publicKey.export({ type: "spki", format: "der" }) as Buffer).toString("base64");
const dkim = { domain: "aldmoor-lifts.org", selector: "s1", privateKey: pem };

describe("what a sender's domain says", () => {
  it("of who may send for it: one record, not for everybody, within what servers ask", () => {
    const spf = (...records: string[]) => judgeSpf("aldmoor-lifts.org", records);
    expect(spf("v=spf1 include:mail.aldmoor-lifts.org -all", "other=text")).toMatchObject({ state: "ok" });
    expect(spf()).toMatchObject({ state: "warn", advice: expect.stringContaining("v=spf1") });
    expect(spf("v=spf1 -all", "v=spf1 mx -all")).toMatchObject({
      state: "fail",
      what: expect.stringContaining("several"),
    });
    expect(spf("v=spf1 +all")).toMatchObject({ state: "fail", what: expect.stringContaining("everybody") });
    expect(spf("v=spf1 all")).toMatchObject({ state: "fail" });
    expect(
      spf(`v=spf1 ${Array.from({ length: 11 }, (_, at) => `include:s${at}.example`).join(" ")} -all`),
    ).toMatchObject({
      state: "fail",
      what: expect.stringContaining("11 parts"),
    });
    expect(spf("v=spf10 -all")).toMatchObject({ state: "warn" });
  });

  it("of the key that messages are signed with: it is the one of the private key", () => {
    expect(judgeDkim(dkim, [`v=DKIM1; k=rsa; p=${shown.slice(0, 60)} ${shown.slice(60)}`])).toMatchObject({
      state: "ok",
    });
    expect(judgeDkim(dkim, [])).toMatchObject({ state: "fail", advice: expect.stringContaining(`p=${shown}`) });
    expect(judgeDkim(dkim, ["v=DKIM1; p="])).toMatchObject({
      state: "fail",
      what: expect.stringContaining("taken back"),
    });
    expect(judgeDkim(dkim, [`v=DKIM1; p=${shown.replace("A", "B")}`])).toMatchObject({
      state: "fail",
      what: expect.stringContaining("not that of"),
    });
    const ed = generateKeyPairSync("ed25519");
    const own = (ed.publicKey.export({ type: "spki", format: "der" }) as Buffer).subarray(-32).toString("base64");
    const key = { ...dkim, privateKey: ed.privateKey.export({ type: "pkcs8", format: "pem" }) as string };
    expect(judgeDkim(key, [`v=DKIM1; k=ed25519; p=${own}`])).toMatchObject({ state: "ok" });
  });

  it("of what becomes of mails that fail", () => {
    const dmarc = (records: string[], isSigned = true) => judgeDmarc("aldmoor-lifts.org", records, isSigned);
    expect(dmarc(["v=DMARC1; p=reject"])).toMatchObject({ state: "ok", what: expect.stringContaining("reject") });
    expect(dmarc(["v=DMARC1; p=reject"], false)).toMatchObject({
      state: "warn",
      advice: expect.stringContaining("Sign"),
    });
    expect(dmarc([])).toMatchObject({ state: "warn", advice: expect.stringContaining("_dmarc.aldmoor-lifts.org") });
  });
});

describe("a setup", () => {
  let service: TestService;
  let mail: SMTPServer;
  beforeAll(async () => {
    mail = new SMTPServer({
      disabledCommands: ["STARTTLS"],
      allowInsecureAuth: true,
      onAuth: ({ password }, _, done) =>
        password === "right" ? done(null, { user: "office" }) : done(new Error("wrong password")),
    });
    await new Promise<void>((resolve) => mail.listen(0, "127.0.0.1", () => resolve()));
    service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0", CORBIX_DEMO: "false" });
  });
  afterAll(async () => {
    await service?.close();
    await new Promise<void>((resolve) => mail.close(() => resolve()));
  });
  const identity = (password: string, from = "Office <office@aldmoor-lifts.org>") =>
    service.call("PUT", "/api/v1/identities/office", {
      settings: {
        from,
        host: "127.0.0.1",
        port: (mail.server.address() as { port: number }).port,
        security: "none",
        user: "office",
        dkim: { domain: "aldmoor-lifts.org", selector: "s1" },
      },
      secret: { password, dkimKey: pem },
    });
  const texts: Record<string, string[][]> = {
    "aldmoor-lifts.org": [["v=spf1 a ", "-all"]],
    "s1._domainkey.aldmoor-lifts.org": [["v=DKIM1; p=", shown]],
  };
  const resolveTxt = async (name: string): Promise<string[][]> => {
    const found = texts[name];
    if (!found) throw Object.assign(new Error(`queryTxt ENOTFOUND ${name}`), { code: "ENOTFOUND" });
    return found;
  };
  const examined = async (more: Partial<Parameters<typeof examine>[0]> = {}) => {
    const all = await examine({
      settings: service.context.settings,
      databaseUrl: service.databaseUrl,
      resolveTxt,
      ...more,
    });
    return Object.fromEntries(all.map((one) => [one.name.replace(/:\d+$/, ""), one]));
  };

  it("that is well is told so, with what is worth a look", async () => {
    await identity("right");
    const found = await examined();
    const fails = Object.values(found).filter(({ state }) => state === "fail");
    // The tests' own cluster gives up safety for speed, and that is seen.
    expect(fails.map(({ name }) => name)).toEqual(["fsync"]);
    expect(found["identity office, 127.0.0.1"]).toMatchObject({
      state: "ok",
      what: expect.stringContaining("lets the identity in"),
    });
    expect(found["identity office, SPF"]).toMatchObject({ state: "ok" });
    expect(found["identity office, DKIM"]).toMatchObject({ state: "ok" });
    expect(found["identity office, DMARC"]).toMatchObject({ state: "warn", advice: expect.stringContaining("_dmarc") });
    expect(found.Address).toMatchObject({ state: "warn", advice: expect.stringContaining("CORBIX_PUBLIC_URL") });
    expect(JSON.stringify(found)).not.toContain("right");
  });

  it("whose mail server lets the identity not in, whose DNS does not answer, or whose sender is for examples, says so", async () => {
    await identity("wrong-password");
    const wrong = await examined({
      resolveTxt: async () => {
        throw Object.assign(new Error("queryTxt ETIMEOUT"), { code: "ETIMEOUT" });
      },
    });
    expect(wrong["identity office, 127.0.0.1"]).toMatchObject({
      state: "fail",
      what: expect.stringContaining("wrong password"),
    });
    expect(wrong["identity office, SPF"]).toMatchObject({
      state: "warn",
      what: expect.stringContaining("cannot be asked from here"),
    });
    await identity("right", "Office <office@lifts.example>");
    expect((await examined())["identity office, lifts.example"]).toMatchObject({ state: "warn" });
  });

  it("without a database, with an empty one, with a key that is not its own", async () => {
    const away = await examined({ databaseUrl: "postgres://nobody:x@127.0.0.1:1/corbix" });
    expect(away.PostgreSQL).toMatchObject({ state: "fail", advice: expect.stringContaining("PostgreSQL") });
    const name = `test_${randomBytes(5).toString("hex")}`;
    await makeDatabase(inject("databaseUrl"), name);
    const empty = await examined({ databaseUrl: inject("databaseUrl").replace(/\/[^/]+$/, `/${name}`) });
    expect(empty["Structure of the database"]).toMatchObject({ state: "ok", what: expect.stringContaining("empty") });
    const key = await examined({ settings: { ...service.context.settings, secretKey: "a key of somebody else" } });
    expect(key["Key of secrets"]).toMatchObject({ state: "fail", advice: expect.stringContaining("rekey") });
    const folder = mkdtempSync(join(tmpdir(), "corbix-doctor-"));
    writeFileSync(join(folder, "cert.pem"), "no certificate");
    const tls = await examined({
      settings: {
        ...service.context.settings,
        tlsCertificate: join(folder, "cert.pem"),
        tlsKey: join(folder, "cert.pem"),
      },
    });
    expect(tls.Certificate).toMatchObject({ state: "fail" });
    rmSync(folder, { recursive: true });
  });
});
