/** The trail: everything that changes or lets go, by whom and from where; read, exported, checked, and closed to changes. */
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";
import { noteAction } from "../../dist/audit/audit.js";
import { checkTrail } from "../../dist/records/index.js";

let service: TestService;
beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0", CORBIX_DEMO: "false" });
});
afterAll(() => service?.close());

interface Entry {
  readonly id: string;
  readonly who: string;
  readonly what: string;
  readonly subject: string;
  readonly from: string | null;
  readonly facts: Record<string, unknown>;
  readonly hash: string;
}
const entries = (query = "") => service.list<Entry>(`/api/v1/trail${query}`);

describe("the trail", () => {
  it("says who did what, from where, with what was before and after", async () => {
    await service.call("POST", "/api/v1/people", { name: "ann.brook", roles: { look: "all" } });
    await service.call("PUT", "/api/v1/people/ann.brook", { roles: { look: "all", release: "all" } });
    await service.call("POST", "/api/v1/session", { name: "ann.brook", password: "not hers at all" });
    const [failed, changed, invited] = await entries();
    expect([invited?.who, invited?.what, invited?.subject]).toEqual(["office", "person invited", "ann.brook"]);
    expect(changed?.facts).toEqual({
      before: { roles: { look: "all" } },
      after: { roles: { look: "all", release: "all" } },
    });
    expect(changed?.from).toMatch(/^(::ffff:)?127\.0\.0\.1, token \d+$/);
    expect([failed?.who, failed?.what]).toEqual(["ann.brook", "sign-in failed"]);
    expect((await entries("?who=ann.brook")).map(({ what }) => what)).toEqual(["sign-in failed"]);
    expect((await entries("?subject=ann.brook&what=person%20changed")).length).toBe(1);
    expect((await entries("?until=2001-01-01")).length).toBe(0);
    const { body } = await service.call<{ words: string[] }>("GET", "/api/v1/trail-words");
    expect(body.words).toEqual(expect.arrayContaining(["person changed", "person invited", "sign-in failed"]));
  });

  it("is one chain, however many write at once, and is exported in its order", async () => {
    const { database } = service.context;
    await Promise.all(
      Array.from({ length: 40 }, (_, at) =>
        noteAction(database, "many", `deed ${at % 3}`, String(at), { at, "ä\n": "\"'" }),
      ),
    );
    const check = await checkTrail(database);
    expect(check.brokenAt).toBeNull();
    const answer = await fetch(`${service.url}/api/v1/trail.jsonl`, {
      headers: { Authorization: `Bearer ${service.signIn.token}` },
    });
    const lines = (await answer.text())
      .trimEnd()
      .split("\n")
      .map((line) => JSON.parse(line) as Entry);
    // A digest that was kept elsewhere is found as long as nothing was cut off.
    expect((await entries(`?hash=${check.head}`)).length).toBe(1);
    expect((await entries(`?hash=${"0".repeat(64)}`)).length).toBe(0);
    expect(lines.length).toBe(check.entries);
    expect(lines.at(-1)?.hash).toBe(check.head);
    expect(lines.filter(({ who }) => who === "many")).toHaveLength(40);
    expect(lines.map(({ id }) => Number(id))).toEqual(lines.map(({ id }) => Number(id)).sort((a, b) => a - b));
  });

  it("is not changed, not by the database's owner either unless the rule is taken away, and tells if it was", async () => {
    const { database } = service.context;
    for (const sql of [
      "UPDATE actions SET who = 'somebody'",
      "DELETE FROM actions WHERE id = (SELECT max(id) FROM actions)",
      "TRUNCATE actions",
    ])
      await expect(database.execute(sql)).rejects.toThrow("added to, never changed");
    const verified = async () => {
      await service.call("POST", "/api/v1/verification");
      const look = async () =>
        (
          await service.call<{ state: string; trail: { entries: number; brokenAt: string | null } | null }>(
            "GET",
            "/api/v1/verification",
          )
        ).body;
      await expect.poll(async () => (await look()).state, { timeout: 60_000 }).toBe("done");
      return (await look()).trail;
    };
    expect((await verified())?.brokenAt).toBeNull();
    const one = async (sql: string) => {
      await database.execute("ALTER TABLE actions DISABLE TRIGGER USER");
      await database.execute(sql);
      await database.execute("ALTER TABLE actions ENABLE TRIGGER USER");
    };
    const [middle] = await database.select<{ id: string; facts: object }>(
      "SELECT id::text, facts FROM actions WHERE who = 'many' ORDER BY id OFFSET 7 LIMIT 1",
    );
    await one(`UPDATE actions SET facts = '{"at":99}' WHERE id = ${middle?.id}`);
    expect((await verified())?.brokenAt).toBe(middle?.id);
    await one(
      `UPDATE actions SET facts = '${JSON.stringify(middle?.facts).replaceAll("'", "''")}' WHERE id = ${middle?.id}`,
    );
    expect((await verified())?.brokenAt).toBeNull();
    await one(`DELETE FROM actions WHERE id = ${middle?.id}`);
    expect((await verified())?.brokenAt).not.toBeNull();
  });
});
