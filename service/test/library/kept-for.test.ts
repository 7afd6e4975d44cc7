/** What is deleted when its time is over, or by hand: rows of editions, old versions of the list, questions; what went out stays known. */
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";
import { smallOffice } from "../../../test/setup/small-office.js";
import { toldSender } from "../../../test/setup/steps.js";
import { sendWaiting } from "../../dist/outbox/outbox.js";
import { releaseRun } from "../../dist/run/release.js";
import { sweepAll } from "../../dist/run/retention.js";

let service: TestService;
let now = new Date("2026-11-02T09:00:00Z");
beforeAll(async () => {
  service = await testService(
    inject("databaseUrl"),
    { CORBIX_WORKERS: "0", CORBIX_DEMO: "false", CORBIX_LIST_MONTHS: "6", CORBIX_QUESTION_MONTHS: "3" },
    () => now,
  );
});
afterAll(() => service?.close());

const { load, list, report, plan, select, refusal } = smallOffice(() => service);
const rows = (fee: number) => `Site,Fee\nCanal Wharf,${fee}\nHarbour House,20\n`;

interface Edition {
  readonly number: number;
  readonly emptiedAt: string | null;
  readonly rowCount: number;
  readonly sha256: string;
}
const editions = () => service.list<Edition>("/api/v1/datasets/visits/editions");
const empty = (number: number) => service.call<Edition>("DELETE", `/api/v1/datasets/visits/editions/${number}/rows`);
const pieces = async () =>
  (
    await select<{ number: number; count: number }>(
      "SELECT editions.number, count(edition_pieces)::int AS count FROM editions LEFT JOIN edition_pieces ON edition_id = editions.id GROUP BY 1 ORDER BY 1",
    )
  ).map(({ count }) => count > 0);

describe("rows of an edition", () => {
  it("are deleted by hand, besides the newest and those of runs under way; what went out of them stays", async () => {
    await list("Canal Wharf,Ann,ann@canal.example");
    await load("visits", rows(10));
    await report("notes", "data: visits");
    const run = await plan({ report: "notes" }, { release: false });
    expect((await refusal("DELETE", "/api/v1/datasets/visits/editions/1/rows")).title).toContain(
      "it is the newest of visits",
    );
    await load("visits", rows(11));
    const used = await refusal("DELETE", "/api/v1/datasets/visits/editions/1/rows");
    expect([used.status, used.title]).toEqual([409, expect.stringContaining(run)]);
    await releaseRun(service.context, run, "ann");
    await sendWaiting(service.context, "office", toldSender([{}]).open);
    const ledger = await select("SELECT * FROM ledger");
    const { status, body } = await empty(1);
    expect([status, body.emptiedAt !== null, body.rowCount, body.sha256.length]).toEqual([200, true, 2, 64]);
    expect(await pieces()).toEqual([false, true]);
    expect(await select("SELECT * FROM ledger")).toEqual(ledger);
    // Nothing goes out twice for all that.
    const again = await service.call<{ parcels: unknown[] }>("GET", `/api/v1/runs/${run}`);
    expect(again.status).toBe(200);
    for (const path of ["rows?limit=5", "file", "look"]) {
      const answer = await (path === "look"
        ? service.call<{ title: string }>("POST", "/api/v1/datasets/visits/editions/1/look", {})
        : service.call<{ title: string }>("GET", `/api/v1/datasets/visits/editions/1/${path}`));
      expect([path, answer.status, answer.body.title]).toEqual([
        path,
        404,
        expect.stringMatching(/^The rows of edition 1 were deleted on \d{4}-\d\d-\d\d\.$/),
      ]);
    }
    expect((await empty(1)).status).toBe(200);
    const trail = await select("SELECT 1 FROM actions WHERE what = 'edition''s rows deleted'");
    expect(trail.length).toBe(1);
    // The next file is compared with the newest, and one that adds has its rows.
    await load("visits", rows(12));
    expect((await editions()).map(({ number, emptiedAt }) => [number, emptiedAt !== null])).toEqual([
      [3, false],
      [2, false],
      [1, true],
    ]);
  });

  it("are deleted when their time is over, if the dataset says when", async () => {
    await sweepAll(service.context);
    expect(await pieces()).toEqual([false, true, true]);
    const set = await service.call<{ keepMonths: number }>("PUT", "/api/v1/datasets/visits/settings", {
      keepMonths: 2,
    });
    expect(set.body.keepMonths).toBe(2);
    await sweepAll(service.context);
    expect(await pieces()).toEqual([false, true, true]);
    await service.context.database.execute("UPDATE editions SET created_at = created_at - interval '3 months'");
    await sweepAll(service.context);
    expect(await pieces()).toEqual([false, false, true]);
    const gone = await service.call<{ keepMonths: null }>("PUT", "/api/v1/datasets/visits/settings", {
      keepMonths: null,
    });
    expect(gone.body.keepMonths).toBeNull();
  });
});

describe("versions of the recipient list, and questions", () => {
  it("are deleted when their time is over; who changed the list and when stays", async () => {
    await list("Canal Wharf,Ben,ben@canal.example");
    await list("Canal Wharf,Cid,cid@canal.example");
    const { database } = service.context;
    await database.execute(
      "UPDATE recipient_lists SET created_at = '2026-01-01' WHERE id < (SELECT max(id) FROM recipient_lists)",
    );
    await database.execute(
      `INSERT INTO questions (id, report, version, editions, day, given, filled, found, rows, asked_by, asked_at)
       SELECT 'q' || n, 'notes', 1, '{}', 1, '{}', '[]', 0, 0, 'ann', $1::timestamptz - n * interval '1 month' FROM generate_series(1, 5) AS n`,
      [now],
    );
    await sweepAll(service.context);
    const history = await service.list<{
      recipients: number;
      emptiedAt: string | null;
      added: number;
      removed: number;
    }>("/api/v1/recipients/history");
    expect(
      history.map(({ recipients, emptiedAt, added, removed }) => [recipients, emptiedAt !== null, added, removed]),
    ).toEqual([
      [1, false, 0, 0],
      [0, true, 0, 0],
      [0, true, 0, 0],
    ]);
    expect((await select<{ id: string }>("SELECT id FROM questions ORDER BY id")).map(({ id }) => id)).toEqual([
      "q1",
      "q2",
      "q3",
    ]);
    // A run of before still says whom it went to.
    const [parcel] = await select<{ recipients: { name: string }[] }>(
      "SELECT recipients FROM parcels WHERE group_key LIKE 'canal%' LIMIT 1",
    );
    expect(parcel?.recipients.map(({ name }) => name)).toEqual(["Ann"]);
    now = new Date("2027-11-02T09:00:00Z");
    await sweepAll(service.context);
    expect((await select("SELECT 1 FROM questions")).length).toBe(0);
    const newest = await service.call<{ items: unknown[] }>("GET", "/api/v1/recipients");
    expect(newest.body.items.length).toBe(1);
  });
});
