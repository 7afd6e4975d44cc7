/** Two pairs of eyes: an approval is given for what goes, by people of whom none prepared it where the report says so. */
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";
import { smallOffice } from "../../../test/setup/small-office.js";
import { toldSender } from "../../../test/setup/steps.js";
import { sendWaiting } from "../../dist/outbox/outbox.js";
import { releaseRun } from "../../dist/run/release.js";

let service: TestService;
const clock = new Date("2026-11-02T09:00:00Z");
beforeAll(async () => {
  // No workers: the steps are driven by hand, with a mail server that does as it is told.
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0" }, () => clock);
});
afterAll(() => service?.close());

const { plan } = smallOffice(() => service);
const states = async (run: string) =>
  (
    await service.context.database.select<{ state: string }>(
      "SELECT state FROM messages WHERE run_id = $1 ORDER BY id",
      [run],
    )
  ).map(({ state }) => state);
const send = (sender: ReturnType<typeof toldSender>) => sendWaiting(service.context, "office", sender.open);

describe("two people", () => {
  const two = async (name: string, more = "") => {
    const { source } = (await service.call<{ source: string }>("GET", "/api/v1/reports/site-statement")).body;
    const { status, body } = await service.call(
      "PUT",
      `/api/v1/reports/${name}`,
      source
        .replace("report: site-statement", `report: ${name}`)
        .replace("hold: true", `hold: true\n  approvals: 2${more}`)
        .replace(/schedule:[\s\S]*/, ""),
    );
    expect([200, 201], JSON.stringify(body)).toContain(status);
  };
  const shown = async (run: string) =>
    (
      await service.call<{ approvals: { by: string; stands: boolean; digest: string; groups: number | null }[] }>(
        "GET",
        `/api/v1/runs/${run}`,
      )
    ).body.approvals;

  it("approve what goes: an approval names it, and is taken back by a change", async () => {
    await two("pair-of-eyes");
    const groups = ["Alder Court", "Harbour House"];
    const run = await plan({ report: "pair-of-eyes", period: "2026-02", groups }, { release: false });
    expect(await releaseRun(service.context, run, "ann")).toBe("approved");
    expect((await shown(run)).map(({ by, stands, groups: of }) => [by, stands, of])).toEqual([["ann", true, null]]);
    expect((await shown(run))[0]?.digest).toMatch(/^[0-9a-f]{64}$/);
    // What ben lets go is what ann has seen: a group left out meanwhile is another run to look at.
    const skip = await service.call("POST", `/api/v1/runs/${run}/skip`, { groups: ["Alder Court"], reason: "not yet" });
    expect(skip.status).toBe(200);
    expect((await shown(run)).map(({ by, stands }) => [by, stands])).toEqual([["ann", false]]);
    expect(await releaseRun(service.context, run, "ben")).toBe("approved");
    expect((await shown(run)).map(({ by, stands }) => [by, stands])).toEqual([["ben", true]]);
    expect(await releaseRun(service.context, run, "ann")).toBe("released");
    await send(toldSender([{}]));
    expect((await states(run)).sort()).toEqual(["sent", "skipped"]);
  });

  it("approve files by their bytes, and words that nobody can swap for others of the same digest", async () => {
    await two("pair-of-files");
    const run = await plan({ report: "pair-of-files", period: "2026-02", groups: ["Alder Court"] }, { release: false });
    expect(await releaseRun(service.context, run, "ann")).toBe("approved");
    const { database } = service.context;
    const stands = async () => (await shown(run)).map(({ stands: one }) => one);
    for (const [what, there, back] of [
      [
        "files",
        "UPDATE files SET path = path || 'x' WHERE run_id = $1",
        "UPDATE files SET path = left(path, -1) WHERE run_id = $1",
      ],
      [
        "html",
        "UPDATE messages SET html = html || ' ' WHERE run_id = $1",
        "UPDATE messages SET html = left(html, -1) WHERE run_id = $1",
      ],
      [
        "people",
        'UPDATE messages SET envelope = (envelope::jsonb || \'{"bcc":[{"address":"x@y.example"}]}\')::json WHERE run_id = $1',
        "UPDATE messages SET envelope = (envelope::jsonb || '{\"bcc\":[]}')::json WHERE run_id = $1",
      ],
    ]) {
      const before = await database.select<{ envelope: string }>(
        "SELECT envelope::text AS envelope FROM messages WHERE run_id = $1",
        [run],
      );
      await database.execute(there ?? "", [run]);
      expect([what, await stands()]).toEqual([what, [false]]);
      await database.execute(back ?? "", [run]);
      if (what === "people")
        await database.execute("UPDATE messages SET envelope = $2::json WHERE run_id = $1", [run, before[0]?.envelope]);
      expect([what, await stands()]).toEqual([what, [true]]);
    }
  });

  it("let nothing go that one of them has not approved", async () => {
    await two("pair-of-groups");
    const groups = ["Alder Court", "Harbour House"];
    const run = await plan({ report: "pair-of-groups", period: "2026-02", groups }, { release: false });
    expect(await releaseRun(service.context, run, "ann", ["Alder Court"])).toBe("approved");
    await expect(releaseRun(service.context, run, "ben")).rejects.toThrow("ann has approved 1 group of it only");
    expect((await shown(run)).map(({ by }) => by)).toEqual(["ann"]);
    expect(await releaseRun(service.context, run, "ben", ["Alder Court"])).toBe("released");
  });

  it("are others than who prepared it, where the report says so", async () => {
    await two("pair-apart", "\n  apart: true");
    const run = await plan({ report: "pair-apart", period: "2026-02", groups: ["Alder Court"] }, { release: false });
    const { startedBy } = (await service.call<{ startedBy: string }>("GET", `/api/v1/runs/${run}`)).body;
    await expect(releaseRun(service.context, run, startedBy)).rejects.toThrow("another person has to");
    await expect(releaseRun(service.context, run, "office")).rejects.toThrow(
      /office (started it|saved its report last)/,
    );
    expect(await releaseRun(service.context, run, "ann")).toBe("approved");
    expect(await releaseRun(service.context, run, "ben")).toBe("released");
  });

  it("and all that a run did are told to an auditor, with digests, as a PDF for keeping", async () => {
    await two("pair-for-auditor");
    const groups = ["Alder Court", "Harbour House"];
    const run = await plan({ report: "pair-for-auditor", period: "2026-02", groups }, { release: false });
    expect(await releaseRun(service.context, run, "ann")).toBe("approved");
    expect(await releaseRun(service.context, run, "ben")).toBe("released");
    await send(toldSender([{}]));
    const answer = await fetch(`${service.url}/api/v1/runs/${run}/audit.pdf`, {
      headers: { Authorization: `Bearer ${service.signIn.token}` },
    });
    expect([answer.status, answer.headers.get("content-type")]).toEqual([200, "application/pdf"]);
    const bytes = new Uint8Array(await answer.arrayBuffer());
    expect(Buffer.from(bytes).toString("latin1")).toContain("pdfaid:part");
    const text = await textOfPdf(bytes);
    const [first] = await shown(run);
    const { database } = service.context;
    const told = await database.select<{ what: string; digest: string; hash: string }>(
      "SELECT what, facts->>'digest' AS digest, hash FROM actions WHERE subject = $1 ORDER BY actions.id",
      [run],
    );
    const released = told.find(({ what }) => what === "run released");
    // What was approved is what was let go, and the trail says so with the same digest.
    expect([first?.digest, told.find(({ what }) => what === "run approved")?.digest]).toEqual([
      released?.digest,
      released?.digest,
    ]);
    const files = await database.select<{ path: string; sha256: string }>(
      "SELECT path, sha256 FROM files WHERE run_id = $1",
      [run],
    );
    const messages = await database.select<{ envelope: { to: { address: string }[] }; sha256: string }>(
      "SELECT envelope, sha256 FROM messages WHERE run_id = $1",
      [run],
    );
    expect([files.length > 2, messages.length]).toEqual([true, 2]);
    const [edition] = await database.select<{ sha256: string }>("SELECT sha256 FROM editions WHERE number = 1 LIMIT 1");
    const wanted = [
      "pair-for-auditor, version 1, saved by office",
      edition?.sha256,
      "2 different people let it go",
      "by ann",
      "by ben",
      released?.digest,
      ...told.map(({ hash }) => hash),
      "are what was written, up to",
      "2 messages, of which 2 were handed over.",
      ...files.map(({ sha256 }) => sha256),
      ...messages.flatMap(({ envelope, sha256 }) => [sha256, ...envelope.to.map(({ address }) => address)]),
    ].map((one) => (one ?? "missing").replaceAll(/\s/g, ""));
    for (const one of wanted) expect(text).toContain(one);
    expect((await service.call("GET", "/api/v1/runs/00000000/audit.pdf")).status).toBe(404);
  });
});

/** The words of all pages, without what parts them: a long one may go over lines. */
async function textOfPdf(bytes: Uint8Array): Promise<string> {
  const { getDocument } = await import("pdfjs-dist/legacy/build/pdf.mjs");
  const pdf = await getDocument({ data: bytes, verbosity: 0 }).promise;
  const pages = await Promise.all(
    Array.from({ length: pdf.numPages }, async (_, at) => (await pdf.getPage(at + 1)).getTextContent()),
  );
  const items = pages.flatMap((page) => page.items.map((item) => ("str" in item ? item.str : "")));
  return items.join("").replaceAll(/\s/g, "");
}
