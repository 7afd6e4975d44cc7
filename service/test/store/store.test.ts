import { execFileSync } from "node:child_process";
import { randomBytes } from "node:crypto";
import {
  mkdirSync,
  mkdtempSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
  truncateSync,
  writeFileSync,
} from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type RunAnswer, type TestService, testService } from "../../../test/setup/service.js";
import { doSteps, openSteps } from "../../../test/setup/steps.js";
import { doStep } from "../../dist/process/worker-loop.js";
import { sweepBlobs, takeStep } from "../../dist/records/index.js";
import { goOnWaiting } from "../../dist/run/run-moves.js";
import { startRun } from "../../dist/run/start-run.js";
import { folderStore, prepareFolder } from "../../dist/store/file-store.js";

let service: TestService;
beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0", CORBIX_STORE_LIMIT: "200000000" });
});
afterAll(() => service?.close());

/** A file system of a few hundred kilobytes, where this machine lets one be mounted; otherwise nothing. */
function tinyDisk(kilobytes: number): { path: string; end: () => void } | undefined {
  const path = mkdtempSync(join(tmpdir(), "corbix-disk-"));
  try {
    execFileSync("mount", ["-t", "tmpfs", "-o", `size=${kilobytes}k`, "corbix-test", path], { stdio: "ignore" });
  } catch {
    rmSync(path, { recursive: true });
    return undefined;
  }
  return {
    path,
    end: () => {
      execFileSync("umount", [path]);
      rmSync(path, { recursive: true });
    },
  };
}

const pieces = async function* (bytes: Uint8Array, size = 65_536) {
  for (let at = 0; at < bytes.length; at += size) yield bytes.subarray(at, at + size);
};

describe("a full disk", () => {
  it("keeps nothing of a file that does not fit, says so, and takes it when there is room", async (context) => {
    const disk = tinyDisk(600);
    if (!disk) return context.skip("no file system can be mounted here");
    try {
      const root = join(disk.path, "files");
      await prepareFolder(root, false);
      const store = folderStore(root);
      const small = await store.receive(randomBytes(200_000), 1e9);
      await small.keep();
      const large = randomBytes(500_000);
      // In one piece and as it comes, in pieces that end in the middle of the last free block.
      for (const source of [large, pieces(large, 65_536), pieces(large, 7_001)])
        await expect(store.receive(source, 1e9)).rejects.toMatchObject({ code: "NO_SPACE" });
      await expect(store.probe()).rejects.toMatchObject({ code: "NO_SPACE" });
      expect(readdirSync(join(root, ".incoming"))).toEqual([]);
      expect(await store.list()).toEqual([small.sha256]);
      await store.remove(small.sha256);
      const later = await store.receive(pieces(large), 1e9);
      await later.keep();
      expect(await store.check(later.sha256)).toBe("whole");
    } finally {
      disk.end();
    }
  });

  it("refuses a master table whole, and loads all its rows afterwards", async () => {
    const rows = Array.from({ length: 1_900 }, (_, n) => `Dock,${n},${"x".repeat(40)}`).join("\n");
    const csv = `Site,No,Text\n${rows}\n`;
    const limit = service.context.settings.storeLimit as number;
    await service.context.database.execute("INSERT INTO blobs (sha256, size) VALUES ('full', $1)", [limit]);
    const full = await service.call<{ code: string; title: string; advice: string }>(
      "POST",
      "/api/v1/datasets/full/editions?file=full.csv",
      csv,
    );
    expect([full.status, full.body.code]).toEqual([507, "NO_SPACE"]);
    expect(full.body.advice).toContain("Nothing of it was kept");
    expect((await service.call("GET", "/api/v1/datasets/full")).status).toBe(404);
    await service.context.database.execute("DELETE FROM blobs WHERE sha256 = 'full'");
    const loaded = await service.call<{ rowCount: number }>(
      "POST",
      "/api/v1/datasets/full/editions?file=full.csv",
      csv,
    );
    expect(loaded.body.rowCount).toBe(1_900);
  });

  it("lets a run wait where it stands, and go on when there is room", async () => {
    const { context } = service;
    const run = await startRun(
      context,
      { report: "site-statement", period: "2026-03", groups: ["Alder Court"] },
      "test",
    );
    await doSteps(context, run.id, ["plan"]);
    const full = "INSERT INTO blobs (sha256, size) VALUES ('full', $1)";
    await context.database.execute(full, [context.settings.storeLimit]);
    const [name] = await openSteps(context, run.id);
    const step = await takeStep(context.database, run.id, name, context.process);
    if (!step) throw new Error("no step");
    await doStep(context, "make", step);
    const shown = async () =>
      (await service.call<RunAnswer & { waitingFor: { code: string } | null }>("GET", `/api/v1/runs/${run.id}`)).body;
    expect(await shown()).toMatchObject({ state: "waiting", waitingFor: { code: "NO_SPACE" }, error: null });
    await goOnWaiting(context);
    expect((await shown()).state).toBe("waiting");
    // A batch that another process had at that moment is nobody's either: whoever lives takes it when there is room.
    const [{ worker }] = await context.database.select<{ worker: string | null }>(
      "SELECT worker FROM run_steps WHERE run_id = $1 AND done_at IS NULL",
      [run.id],
    );
    expect(worker).toBeNull();
    const late = await takeStep(context.database, run.id, name, "another");
    if (!late) throw new Error("no step");
    await context.database.execute("INSERT INTO workers (id) VALUES ('another')");
    await doStep({ ...context, process: "another" }, "make", late);
    expect(await takeStep(context.database, run.id, name, context.process)).toBeDefined();
    await context.database.execute("UPDATE run_steps SET worker = NULL WHERE run_id = $1", [run.id]);
    await context.database.execute("DELETE FROM blobs WHERE sha256 = 'full'");
    await goOnWaiting(context);
    expect((await shown()).state).toBe("making");
    await doSteps(context, run.id);
    expect(await shown()).toMatchObject({ state: "held", waitingFor: null });
  });
});

describe("bytes that were changed", () => {
  it("are never believed, and healed by the same file arriving again, whichever way it comes", async () => {
    const csv = `Site,Fee\n${Array.from({ length: 500 }, (_, n) => `Dock,${n}`).join("\n")}\n`;
    const load = () =>
      service.call<{ sha256: string; rowCount: number }>("POST", "/api/v1/datasets/hurt/editions?file=hurt.csv", csv);
    const { sha256 } = (await load()).body;
    const path = service.context.store.pathOf(sha256);
    truncateSync(path, 1_000);
    expect(await service.context.store.check(sha256)).toBe("damaged");
    const { threads } = service.context;
    await expect(
      threads.isolated("load", { path, sha256, where: "hurt.csv", options: {}, groupColumns: [], previewRows: 0 }),
    ).rejects.toMatchObject({ code: "FILE_MISSING", message: expect.stringContaining("its bytes were changed") });
    expect((await load()).body.rowCount).toBe(500);
    expect(await service.context.store.check(sha256)).toBe("whole");
    rmSync(path);
    expect((await load()).body.rowCount).toBe(500);
    expect(await service.context.store.check(sha256)).toBe("whole");
  });

  it("are named by verify with who needs them, beside what is missing and what nobody needs", async () => {
    const template = (await service.call<{ sha256: string }>("GET", "/api/v1/templates/statement.xlsx")).body;
    const notice = (await service.call<{ sha256: string }>("GET", "/api/v1/templates/notice.docx")).body;
    const keep = service.context.store;
    const [hurt, gone] = [keep.pathOf(template.sha256), keep.pathOf(notice.sha256)];
    renameSync(gone, `${gone}.away`);
    const whole = statSync(hurt).size;
    writeFileSync(hurt, Buffer.alloc(whole, 1));
    const spare = await keep.put(Buffer.from("nobody needs this"));
    await service.call("POST", "/api/v1/verification");
    const end = Date.now() + 60_000;
    let found: { state: string; faults: { what: string; uses: string[] }[]; nobodys: number } | undefined;
    while (found?.state !== "done" && Date.now() < end) {
      await new Promise((resolve) => setTimeout(resolve, 50));
      found = (await service.call<typeof found & object>("GET", "/api/v1/verification")).body;
    }
    expect(found?.faults.map((fault) => [fault.what, fault.uses[0]]).sort()).toEqual([
      ["damaged", "template statement.xlsx, version 1"],
      ["missing", "template notice.docx, version 1"],
    ]);
    expect(found?.nobodys).toBeGreaterThanOrEqual(1);
    renameSync(`${gone}.away`, gone);
    // The same bytes again heal it.
    const { readFileSync } = await import("node:fs");
    await service.call("PUT", "/api/v1/templates/statement.xlsx", readFileSync("demo/files/templates/statement.xlsx"));
    expect(await keep.check(template.sha256)).toBe("whole");
    expect(await keep.has(spare)).toBe(true);
  });
});

describe("a store that is away", () => {
  it("is told from one that is new, and nothing is written where it should be", async () => {
    const root = mkdtempSync(join(tmpdir(), "corbix-store-"));
    const files = join(root, "files");
    await prepareFolder(files, false);
    const store = folderStore(files);
    const kept = await store.receive(Buffer.from("x"), 10);
    await kept.keep();
    renameSync(files, join(root, "away"));
    mkdirSync(files);
    await prepareFolder(files, true);
    await expect(store.get(kept.sha256)).rejects.toMatchObject({ code: "STORE_AWAY" });
    await expect(store.has(kept.sha256)).rejects.toMatchObject({ code: "STORE_AWAY" });
    await expect(store.receive(Buffer.from("y"), 10)).rejects.toMatchObject({ code: "STORE_AWAY" });
    expect(readdirSync(files)).toEqual([]);
    rmSync(files, { recursive: true });
    renameSync(join(root, "away"), files);
    expect(Buffer.from(await store.get(kept.sha256)).toString()).toBe("x");
    // Readable by its owner only.
    expect(statSync(files).mode & 0o777).toBe(0o700);
    expect(statSync(store.pathOf(kept.sha256)).mode & 0o777).toBe(0o600);
    expect(statSync(join(files, kept.sha256.slice(0, 2))).mode & 0o777).toBe(0o700);
    rmSync(root, { recursive: true });
  });
});

describe("who still needs stored bytes", () => {
  it("is asked of the database itself: an attachment that was looked at before is not swept away", async () => {
    const { context } = service;
    const bytes = Buffer.from("%PDF-1.7 terms of the held run");
    await service.call("PUT", "/api/v1/templates/terms.pdf", bytes);
    const csv = "Site,Fee\nDock,3\n";
    await service.call("POST", "/api/v1/datasets/needs/editions?file=needs.csv", csv);
    mkdirSync(`${service.data}/attachments`, { recursive: true });
    writeFileSync(`${service.data}/attachments/Dock.pdf`, "%PDF-1.7 of Dock alone");
    await service.call("PUT", "/api/v1/recipients?file=l.csv", "Group,Name,Addresses\nDock,Ann,ann@dock.example\n");
    await service.call(
      "PUT",
      "/api/v1/reports/needs",
      'report: needs\ntitle: N\ndata: needs\nsplit: site\nmessage: { subject: x, body: { text: x }, attach: [{ found: "{{ site }}.pdf" }] }\n',
    );
    // Somebody looks at the same bytes as an upload first.
    const upload = (
      await service.call<{ upload: string }>(
        "POST",
        "/api/v1/uploads?file=Dock.pdf",
        Buffer.from("%PDF-1.7 of Dock alone"),
      )
    ).body.upload;
    const run = await startRun(context, { report: "needs" }, "test");
    await doSteps(context, run.id);
    const { sweepStore } = await import("../../dist/run/sweep.js");
    const later = { ...context, now: () => new Date(Date.now() + 100 * 86_400_000) };
    await sweepStore(later);
    expect(await context.store.has(upload)).toBe(true);
    expect((await service.call("GET", `/api/v1/runs/${run.id}`)).status).toBe(200);
    // The database lets go of no bytes that something refers to.
    await expect(context.database.execute("DELETE FROM blobs WHERE sha256 = $1", [upload])).rejects.toThrow(
      /violates foreign key/,
    );
    const spare = await context.store.put(Buffer.from("of no use to anybody"));
    expect(await sweepBlobs(context.database, context.store, new Date())).toBe(0);
    expect(await context.store.has(spare)).toBe(true);
    await sweepStore(later);
    expect(await context.store.has(spare)).toBe(false);
  });

  it("is kept by a wait where the same bytes arrive while they are swept", async () => {
    const { context } = service;
    const bytes = Buffer.from("swept and stored at once");
    for (let round = 0; round < 20; round++) {
      const digest = await context.store.put(bytes);
      await context.database.execute("UPDATE blobs SET kept_until = now() - interval '1 hour' WHERE sha256 = $1", [
        digest,
      ]);
      const [, stored] = await Promise.all([
        sweepBlobs(context.database, context.store, new Date()),
        context.store.put(bytes),
      ]);
      // Whichever came first: what was stored is there, and known.
      expect(await context.store.check(stored)).toBe("whole");
      expect(await context.database.select("SELECT 1 FROM blobs WHERE sha256 = $1", [stored])).toHaveLength(1);
    }
  });
});
