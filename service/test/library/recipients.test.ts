import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";

interface Entry {
  readonly row: number;
  readonly group: string;
  readonly name: string;
  readonly to: readonly { readonly address: string }[];
}
interface List {
  readonly recipients: readonly Entry[];
}
interface Change {
  readonly kind: string;
  readonly name: string;
  readonly fields: readonly string[];
}

let service: TestService;
beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0" });
});
afterAll(() => service?.close());

const list = async (): Promise<List> => ({
  recipients: (await service.client.get("/recipients", { query: { limit: 1_000 } })).items,
});
const entry = { group: "Harbour House", name: "Zoe Quill", addresses: "zoe@harbourhouse.example" };

describe("the shared list", () => {
  it("shows what a file would change, keeps nothing, then merges it", async () => {
    const before = await list();
    const first = before.recipients[0];
    const file = `Group,Name,Addresses\n${first.group},${first.name},new.address@aldercourt.example\nNew Mill,Nia Lund,nia@newmill.example\n`;
    const preview = (
      await service.call<{ changes: Change[]; unchanged: number }>(
        "POST",
        "/api/v1/recipients/preview?file=new.csv&mode=merge",
        file,
      )
    ).body;
    expect(preview.changes.map((one) => [one.kind, one.name, one.fields.join()])).toEqual([
      ["changed", first.name, "addresses"],
      ["added", "Nia Lund", ""],
    ]);
    expect(preview.unchanged).toBe(before.recipients.length - 1);
    expect((await list()).recipients).toEqual(before.recipients);
    await service.call("PUT", "/api/v1/recipients?file=new.csv&mode=merge", file);
    const after = await list();
    expect(after.recipients).toHaveLength(before.recipients.length + 1);
    expect(after.recipients[0].to[0].address).toBe("new.address@aldercourt.example");
  });

  it("is changed entry by entry, refuses what cannot be sent to, and keeps who changed what", async () => {
    const { recipients } = await list();
    await service.call("POST", "/api/v1/recipients/entries", {
      ...entry,
      role: "copy",
      activeUntil: "2027-03-31",
      fields: { Floor: "3" },
    });
    const added = (await list()).recipients.find((one) => one.name === "Zoe Quill");
    expect(added).toMatchObject({
      role: "copy",
      activeUntil: "2027-03-31",
      fields: { Floor: "3" },
      row: Math.max(...recipients.map((one) => one.row)) + 1,
    });
    const path = `/api/v1/recipients/entries/${added?.row}`;
    expect(
      (await service.call("PUT", path, { ...entry, addresses: "zoe@harbourhouse.example; lee@harbourhouse.example" }))
        .status,
    ).toBe(200);
    for (const bad of [
      { addresses: "zoe" },
      { addresses: "a@b.example\r\nBcc: c@d.example" },
      { group: " ; " },
      { language: "not one" },
    ]) {
      const answer = await service.call<{ title: string }>("PUT", path, { ...entry, ...bad });
      expect([answer.status, answer.body.title]).toEqual([
        expect.any(Number),
        expect.stringMatching(/^Cannot (?:keep the entry|use the body)/),
      ]);
      expect(answer.status).toBeGreaterThanOrEqual(400);
    }
    expect((await service.call("DELETE", path)).status).toBe(200);
    expect((await service.call("DELETE", path)).status).toBe(404);
    expect((await list()).recipients).toHaveLength(recipients.length);
    const history = await service.list<{
      createdBy: string;
      added: number;
      changed: number;
      removed: number;
      changes: Change[];
    }>("/api/v1/recipients/history");
    expect(history.slice(0, 3).map((one) => [one.createdBy, one.added, one.changed, one.removed])).toEqual([
      ["office", 0, 0, 1],
      ["office", 0, 1, 0],
      ["office", 1, 0, 0],
    ]);
    expect(history[1].changes[0].fields).toEqual(["addresses", "role", "active until", "Floor"]);
  });

  it.each(["csv", "xlsx", "vcf"])("goes out as %s and comes back without a change", async (kind) => {
    const response = await fetch(`${service.url}/api/v1/recipients/export?as=${kind}`, {
      headers: { Authorization: `Bearer ${service.signIn.token}` },
    });
    const bytes = new Uint8Array(await response.arrayBuffer());
    const preview = (
      await service.call<{ changes: Change[] }>("POST", `/api/v1/recipients/preview?file=back.${kind}`, bytes)
    ).body;
    // A card holds no copies; all else is there.
    expect(
      preview.changes.filter(
        (one) => one.fields.some((field) => kind !== "vcf" || field !== "copies") || one.kind !== "changed",
      ),
    ).toEqual([]);
  });

  it("tells who would receive for each group, by which rule, or why nobody", async () => {
    const matching = await service.list<{
      group: string;
      nobody: string | null;
      people: { name: string; why: string }[];
    }>("/api/v1/reports/site-statement/matching?period=2026-10");
    expect(matching).toHaveLength(26);
    expect(matching.find((one) => one.group === "Alder Court")?.people).toMatchObject([
      { name: "Ruth Penhallow", why: 'row 2 of the list stands for "Alder Court"' },
    ]);
    expect(matching.filter((one) => one.nobody !== null).map((one) => one.nobody)).toEqual([
      "no row of the list names it",
      "no row of the list names it",
    ]);
  });
});
