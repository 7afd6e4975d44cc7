import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";
import { doSteps, toldSender } from "../../../test/setup/steps.js";
import type { Outcome } from "../../dist/mail/smtp.js";
import { beginMessages } from "../../dist/outbox/begin.js";
import { sendWaiting } from "../../dist/outbox/outbox.js";
import { startRun } from "../../dist/run/start-run.js";
import { sweep } from "../../dist/run/sweep.js";

let service: TestService;
let clock = Date.parse("2026-11-02T09:00:00Z");
beforeAll(async () => {
  service = await testService(
    inject("databaseUrl"),
    { CORBIX_WORKERS: "0", CORBIX_DEMO: "false" },
    () => new Date(clock),
  );
  await service.call(
    "PUT",
    "/api/v1/recipients?file=l.csv",
    "Group,Name,Addresses\nDock,Ann,ann@dock.example\nQuay,Ben,ben@quay.example\n",
  );
  await service.call("POST", "/api/v1/datasets/model/editions?file=m.csv", "Site,Fee\nDock,1\nQuay,2\n");
  const made = await service.call(
    "PUT",
    "/api/v1/reports/model",
    'report: model\ntitle: M\ndata: model\nsplit: site\nmessage: { subject: "{{ site }}", body: { text: x } }\n',
  );
  expect(made.status).toBe(201);
});
afterAll(() => service?.close());

type Act =
  | { readonly kind: "release" | "stop" | "pause" | "resume" | "crash" | "rerun" | "later" }
  | { readonly kind: "again" | "arrived" | "decide" | "skip"; readonly which: number }
  | { readonly kind: "send"; readonly outcomes: readonly ("sent" | "later" | "refused" | "unsure")[] };

const plain = (kind: "release" | "stop" | "pause" | "resume" | "crash" | "rerun" | "later", weight: number) => ({
  weight,
  arbitrary: fc.constant<Act>({ kind }),
});
const acts: fc.Arbitrary<Act> = fc.oneof(
  plain("release", 6),
  plain("stop", 1),
  plain("pause", 1),
  plain("resume", 2),
  plain("crash", 3),
  plain("rerun", 2),
  plain("later", 3),
  {
    weight: 7,
    arbitrary: fc.record({
      kind: fc.constantFrom("again" as const, "arrived" as const, "decide" as const, "skip" as const),
      which: fc.nat(5),
    }),
  },
  {
    weight: 6,
    arbitrary: fc.record({
      kind: fc.constant("send" as const),
      outcomes: fc.array(
        fc.constantFrom("sent" as const, "sent" as const, "later" as const, "refused" as const, "unsure" as const),
        {
          minLength: 1,
          maxLength: 3,
        },
      ),
    }),
  },
);

interface Row {
  readonly id: string;
  readonly run_id: string;
  readonly group_key: string;
  readonly state: string;
  readonly run_state: string;
  readonly released: boolean;
  readonly in_ledger: boolean;
}

describe("runs and messages in the service itself", () => {
  it("hold their promises whatever is said, breaks off or comes twice", async () => {
    let received = 0;
    let words = 0;
    await fc.assert(
      fc.asyncProperty(fc.array(acts, { minLength: 8, maxLength: 24 }), async (sequence) => {
        const { context } = service;
        // Each round is an edition of its own, so an occasion of its own.
        await service.call(
          "POST",
          "/api/v1/datasets/model/editions?file=m.csv",
          `Site,Fee\nDock,${clock % 1e9}\nQuay,2\n`,
        );
        const runs: string[] = [];
        const plan = async () => {
          const { id } = await startRun(context, { report: "model" }, "test");
          await doSteps(context, id);
          runs.push(id);
        };
        await plan();
        /** What a server took or may have taken, by group; and a person's words that something shall go once more. */
        const taken = new Map<string, number>();
        const allowed = new Map<string, number>();
        const rows = () =>
          context.database.select<Row>(
            `SELECT messages.id::text, run_id, group_key, messages.state, runs.state AS run_state, runs.released_at IS NOT NULL AS released,
               EXISTS (SELECT 1 FROM ledger WHERE message_id = messages.id) AS in_ledger
             FROM messages JOIN runs ON runs.id = run_id WHERE run_id = ANY($1) ORDER BY messages.id`,
            [runs],
          );
        const pick = async (which: number) => {
          const all = await rows();
          return all[which % all.length];
        };
        const say = async (path: string, body: object, group?: string) => {
          const { status } = await service.call("POST", path, body);
          expect([200, 201, 409, 422]).toContain(status);
          if (status < 300 && group) {
            allowed.set(group, (allowed.get(group) ?? 0) + 1);
            words++;
          }
        };
        for (const act of sequence) {
          const run = runs[runs.length - 1];
          if (act.kind === "rerun") await plan();
          else if (act.kind === "later") clock += 3_600_000;
          else if (act.kind === "send") {
            const outcomes = act.outcomes.map(
              (kind): Partial<Outcome> =>
                kind === "refused"
                  ? { kind, response: "550 no", taken: [] }
                  : kind === "sent"
                    ? { kind }
                    : { kind, response: kind, taken: [] },
            );
            const sender = toldSender(outcomes);
            await sendWaiting(context, "office", sender.open);
            for (const mail of sender.sent) {
              const { kind } = mail.outcome;
              const group = mail.to[0].startsWith("ann") ? "dock" : "quay";
              const [owner] = await context.database.select<{ released: boolean }>(
                "SELECT bool_or(runs.released_at IS NOT NULL) AS released FROM messages JOIN runs ON runs.id = run_id WHERE messages.message_id = $1 AND run_id = ANY($2)",
                [mail.id, runs],
              );
              expect(owner.released).toBe(true);
              if (kind === "sent" || kind === "unsure") taken.set(group, (taken.get(group) ?? 0) + 1);
              received++;
            }
          } else if (act.kind === "crash") {
            // A process begins what waits, and is never heard of again.
            const ghost = `ghost ${clock} ${Math.random()}`;
            await context.database.execute("INSERT INTO workers (id) VALUES ($1)", [ghost]);
            await context.database.execute(
              "UPDATE identities SET holder = $1, held_until = now() + interval '1 minute' WHERE name = 'office'",
              [ghost],
            );
            const queued = (await rows()).filter((row) => row.state === "queued");
            const begun = await beginMessages(
              { ...context, process: ghost },
              "office",
              queued.map((row) => {
                const address = row.group_key === "dock" ? "ann@dock.example" : "ben@quay.example";
                return {
                  id: row.id,
                  runId: row.run_id,
                  shared: row.group_key,
                  addresses: [address],
                  people: [address],
                  isAgain: false,
                  datedAt: new Date(clock),
                };
              }),
            );
            for (const row of queued.filter((one) => begun.has(one.id)))
              taken.set(row.group_key, (taken.get(row.group_key) ?? 0) + 1);
            await context.database.execute("UPDATE workers SET ended_at = now() WHERE id = $1", [ghost]);
            await sweep(context);
          } else if (act.kind === "again" || act.kind === "decide" || act.kind === "arrived" || act.kind === "skip") {
            const row = await pick(act.which);
            if (act.kind === "again")
              await say(`/api/v1/messages/${row.id}/again`, { reason: "a word" }, row.group_key);
            else if (act.kind === "decide")
              await say(`/api/v1/messages/${row.id}/decide`, { as: "again" }, row.group_key);
            else if (act.kind === "arrived") await say(`/api/v1/messages/${row.id}/decide`, { as: "arrived" });
            else await say(`/api/v1/runs/${row.run_id}/skip`, { groups: [row.group_key], reason: "a word" });
          } else await say(`/api/v1/runs/${run}/${act.kind}`, {});
          for (const row of await rows()) {
            const where = `${row.state} in a run that is ${row.run_state}`;
            if (row.run_state === "done") expect(["queued", "sending"], where).not.toContain(row.state);
            if (row.run_state === "stopped") expect(["queued", "held"], where).not.toContain(row.state);
            if (["queued", "sending", "sent", "refused", "unsure"].includes(row.state))
              expect(row.released, where).toBe(true);
            // What is told is what was: delivered, or may be, stands in the ledger; all of the rest is due.
            if (["sent", "unsure", "sending"].includes(row.state)) expect(row.in_ledger, where).toBe(true);
            if (["held", "refused", "skipped"].includes(row.state)) expect(row.in_ledger, where).toBe(false);
          }
          // None twice without a person's word, however many runs there are.
          for (const [group, count] of taken)
            expect(count, `${group}: ${JSON.stringify(sequence)}`).toBeLessThanOrEqual(1 + (allowed.get(group) ?? 0));
        }
        // Nothing of this round is left to the next.
        for (const run of runs) await service.call("POST", `/api/v1/runs/${run}/stop`, {});
        clock += 60_000;
      }),
      { numRuns: 40, endOnFailure: true },
    );
    expect(received).toBeGreaterThan(20);
    expect(words).toBeGreaterThan(0);
  }, 300_000);
});
