/** What becomes of messages after they went: reports that come back, decisions of people, sending again, and showing what was sent. */
import { afterEach, beforeEach, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";
import { doSteps, toldSender } from "../../../test/setup/steps.js";
import type { Outcome } from "../../dist/mail/smtp.js";
import { sendWaiting } from "../../dist/outbox/outbox.js";
import { releaseRun } from "../../dist/run/release.js";
import { startRun } from "../../dist/run/start-run.js";
import { messageReport } from "../support/delivery-reports.js";

let service: TestService;
beforeEach(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0", CORBIX_DEMO: "false" });
  expect(
    (
      await service.call(
        "PUT",
        "/api/v1/recipients?file=list.csv",
        "Group,Name,Addresses,Copies\nDock,Ann,ann@dock.example; ben@dock.example,chief@dock.example\nQuay,Cleo,cleo@quay.example,\n",
      )
    ).status,
  ).toBe(200);
  expect(
    (await service.call("POST", "/api/v1/datasets/own/editions?file=own.csv", "Site,Fee\nDock,3\nQuay,4\n")).status,
  ).toBe(201);
  await report();
});
afterEach(() => service?.close());

const report = async (more = "") => {
  const source = `report: own\ntitle: Own\ndata: own\nsplit: site\nonce: hand\nfiles: { rows: { name: "{{ site }}", table: {} } }\nmessage: { subject: "For {{ site }}", body: { text: "Attached." }, attach: [rows] }\n${more}`;
  const made = await service.call<{ title?: string }>("PUT", "/api/v1/reports/own", source);
  expect([made.status, made.body.title]).toEqual([expect.any(Number), "Own"]);
};
const plan = async (more: Partial<Parameters<typeof startRun>[1]> = {}, release = true): Promise<string> => {
  const { id } = await startRun(service.context, { report: "own", groups: ["Dock"], ...more }, "test");
  await doSteps(service.context, id);
  if (release) await releaseRun(service.context, id, "test");
  return id;
};
interface Row {
  readonly id: string;
  readonly state: string;
  readonly response: string;
  readonly results: Record<string, { state: string; response: string }>;
}
const messages = (run: string) =>
  service.context.database.select<Row>(
    "SELECT id, state, response, results FROM messages WHERE run_id = $1 ORDER BY id",
    [run],
  );
const send = (...outcomes: readonly Partial<Outcome>[]) => {
  const sender = toldSender(outcomes.length > 0 ? outcomes : [{}]);
  return sendWaiting(service.context, "office", sender.open).then(() => sender.sent);
};
const tell = (raw: Buffer | string) =>
  service.call<{ message: string | null; title?: string; code?: string }>("POST", "/api/v1/delivery-reports", raw);
const states = ({ results }: Row) =>
  Object.fromEntries(Object.entries(results).map(([address, one]) => [address, one.state]));
const EVERYBODY = ["ann@dock.example", "ben@dock.example", "chief@dock.example"];

describe("a report of delivery", () => {
  const told = (id: string, address: string, action: string) =>
    Buffer.from(messageReport(id, address).toString().replace("Action: failed", `Action: ${action}`));

  it("puts what came back to the address it came back from, however that is written; the others have it", async () => {
    const run = await plan();
    const [{ id }] = await send();
    const raw = messageReport(id, "Ben@DOCK.example");
    const first = await tell(raw);
    expect(first.status).toBe(200);
    const [message] = await messages(run);
    expect([message.state, states(message)]).toEqual([
      "sent",
      { "ann@dock.example": "taken", "ben@dock.example": "returned", "chief@dock.example": "taken" },
    ]);
    expect(message.response).toContain("came back from Ben@DOCK.example");
    // The same report once more says nothing new.
    expect((await tell(raw)).body).toMatchObject({ message: first.body.message });
    expect((await messages(run))[0].response).toBe(message.response);
  });

  it("of all makes the message returned; one that was delayed and then arrived is delivered", async () => {
    const run = await plan();
    const [{ id }] = await send();
    await tell(told(id, EVERYBODY[0], "delayed"));
    expect((await messages(run))[0]).toMatchObject({
      state: "sent",
      results: { [EVERYBODY[0]]: { state: "delayed" } },
    });
    for (const action of ["delivered", "relayed", "expanded"]) {
      await tell(told(id, EVERYBODY[0], action));
      expect((await messages(run))[0]).toMatchObject({
        state: "sent",
        results: { [EVERYBODY[0]]: { state: "delivered" } },
      });
    }
    for (const address of EVERYBODY) await tell(messageReport(id, address));
    expect((await messages(run))[0].state).toBe("returned");
  });

  it("proves that a message went of which nobody knew it", async () => {
    const run = await plan();
    const [{ id }] = await send({ kind: "unsure", response: "connection lost", taken: [] });
    expect((await messages(run))[0].state).toBe("unsure");
    await tell(told(id, EVERYBODY[0], "delivered"));
    expect((await messages(run))[0].state).toBe("sent");
  });

  it("of a message that is none of ours, or that does not say which, is kept and changes nothing", async () => {
    const run = await plan();
    await send();
    const before = await messages(run);
    expect((await tell(messageReport("<else@where.example>", EVERYBODY[0]))).body.message).toBeNull();
    const nameless = messageReport("<x@y.example>", EVERYBODY[0])
      .toString()
      .replace(/Message-ID: .*\r\n/, "Subject: lost\r\n");
    expect((await tell(Buffer.from(nameless))).body.message).toBeNull();
    const bare = messageReport("<x@y.example>", EVERYBODY[0])
      .toString()
      .replace(/--part\r\nContent-Type: text\/rfc822-headers[\s\S]*?--part--/, "--part--");
    expect((await tell(Buffer.from(bare))).body.message).toBeNull();
    expect(await messages(run)).toEqual(before);
  });

  it("that has no delivery status is refused with words", async () => {
    expect(await tell("From: a@b.example\r\nSubject: Hello\r\n\r\nI am away.\r\n")).toMatchObject({
      status: 400,
      body: { title: "Cannot read this as a report of delivery: it has no delivery status." },
    });
  });
});

describe("a person's decision", () => {
  const decide = (id: string, as: string, reason?: string) =>
    service.call<{ state?: string; title?: string }>("POST", `/api/v1/messages/${id}/decide`, {
      as,
      ...(reason ? { reason } : {}),
    });
  const again = (id: string) =>
    service.call<{ id?: string; as?: string; title?: string }>("POST", `/api/v1/messages/${id}/again`, {
      reason: "they lost it",
    });

  it("is kept with its reason, and is refused where nothing is to be decided", async () => {
    const run = await plan();
    await send({ kind: "unsure", response: "connection lost", taken: [] });
    const [{ id }] = await messages(run);
    expect((await decide(id, "arrived", "Ann has said so")).body).toEqual({ state: "sent" });
    expect((await messages(run))[0].response).toBe("decided by office: it arrived (Ann has said so)");
    expect((await decide(id, "arrived")).body.title).toBe(
      "Cannot decide this message: it is neither unsure nor refused, but sent.",
    );
    for (const way of ["decide", "again"])
      expect(
        (
          await service.call(
            "POST",
            `/api/v1/messages/999999/${way}`,
            way === "decide" ? { as: "again" } : { reason: "they lost it" },
          )
        ).status,
      ).toBe(404);
  });

  it("cannot call arrived what the server refused, and sends it to those who refused it once more", async () => {
    const run = await plan();
    const no = { response: "550 no such mailbox", kind: "refused" as const };
    await send({ ...no, taken: [], refused: EVERYBODY.map((address) => ({ address, response: no.response })) });
    const [{ id, state }] = await messages(run);
    expect(state).toBe("refused");
    expect((await decide(id, "arrived")).body.title).toBe(
      "Cannot decide that this message arrived: the server refused it.",
    );
    expect((await decide(id, "again")).body).toEqual({ state: "queued" });
    expect((await send())[0].to).toEqual(EVERYBODY);
  });

  it("can correct an address that refused it: there it goes as a first time, and the list has it right from then on", async () => {
    const run = await plan();
    const refused = [{ address: EVERYBODY[1], response: "550 no such mailbox" }];
    await send({ kind: "sent", taken: [EVERYBODY[0], EVERYBODY[2]], refused });
    const [{ id }] = await messages(run);
    const correct = (corrections: { address: string; to: string }[]) =>
      service.call<{ id: string; as: string; entries: number; title: string }>("POST", `/api/v1/messages/${id}/again`, {
        reason: "he moved",
        corrections,
        inList: true,
      });
    expect((await correct([{ address: EVERYBODY[1], to: "ben at dock" }])).body.title).toContain("it has no @");
    expect((await correct([{ address: EVERYBODY[0], to: "x@dock.example" }])).body.title).toContain(
      "that address is none that it did not reach",
    );
    const { body } = await correct([{ address: "BEN@dock.example", to: "benjamin@dock.example" }]);
    expect(body).toMatchObject({ as: "first", entries: 1 });
    const [sent] = await send();
    expect(sent.to).toEqual(["benjamin@dock.example"]);
    const list = await service.list<{ name: string; to: { address: string }[] }>("/api/v1/recipients");
    expect(list.flatMap((one) => one.to.map(({ address }) => address))).toContain("benjamin@dock.example");
    expect(list.flatMap((one) => one.to.map(({ address }) => address))).not.toContain(EVERYBODY[1]);
  });

  it("to send again goes to those whom it did not reach as a first time, and to all as a repeat", async () => {
    const run = await plan();
    const refused = [{ address: "ben@dock.example", response: "550 no such mailbox" }];
    await send({ kind: "sent", taken: [EVERYBODY[0], EVERYBODY[2]], refused });
    const [{ id }] = await messages(run);
    expect((await again(id)).body).toMatchObject({ as: "first" });
    const second = await send();
    expect(second.map((one) => one.to)).toEqual([["ben@dock.example"]]);
    expect(second[0].raw).toMatch(/^Subject: For Dock\r$/m);
    const [, copy] = await messages(run);
    expect((await again(copy.id)).body).toMatchObject({ as: "repeat" });
    expect((await send())[0].raw).toMatch(/^Subject: Sent again: For Dock\r$/m);
  });

  it("to send again waits for what is on its way, and for what another of the group becomes", async () => {
    const run = await plan();
    const [{ id }] = await messages(run);
    expect((await again(id)).body.title).toBe("Cannot send this message again: it is still on its way.");
    await send({ kind: "unsure", response: "connection lost", taken: [] });
    expect((await again(id)).body.title).toBe("Cannot send this message again: it is unsure.");
    await decide(id, "arrived");
    const copy = (await again(id)).body.id;
    expect((await again(id)).body.title).toBe(
      `Cannot send this message again: another of its group, message ${copy}, is queued.`,
    );
  });

  it("to send again is none of a rehearsal's, of a run that an incident broke off, or of a text that is deleted", async () => {
    const rehearsed = await plan({ rehearsalTo: "me@lifts.example" }, false);
    await send();
    const [own] = await messages(rehearsed);
    expect((await again(own.id)).body.title).toBe("Cannot send this message again: it is a rehearsal's.");
    const run = await plan();
    await send();
    const [{ id }] = await messages(run);
    const { database } = service.context;
    await database.execute("UPDATE runs SET error = $2 WHERE id = $1", [
      run,
      JSON.stringify({ code: "PROVENANCE_MISMATCH", message: "A file was of another group." }),
    ]);
    expect((await again(id)).body.title).toBe(
      "Cannot send this message: its run was broken off. A file was of another group.",
    );
    await database.execute("UPDATE messages SET html = '', text = '', mime = NULL, packed = NULL WHERE id = $1", [id]);
    expect((await again(id)).body.title).toBe(
      "Cannot send this message again: its text was deleted when its time was over.",
    );
    const shown = await service.call<{ title: string }>("GET", `/api/v1/messages/${id}/raw`);
    expect([shown.status, shown.body.title]).toEqual([
      404,
      "Cannot show the message: it was deleted when its time was over.",
    ]);
  });
});

describe("a message that has not gone", () => {
  it("is shown as it would go now, marked where it would be a repeat", async () => {
    const raw = async (id: string) => {
      const response = await fetch(`${service.url}/api/v1/messages/${id}/raw`, {
        headers: { Authorization: `Bearer ${service.signIn.token}` },
      });
      return response.text();
    };
    const first = await plan({}, false);
    expect(await raw((await messages(first))[0].id)).toMatch(/^Subject: For Dock\r$/m);
    await releaseRun(service.context, first, "test");
    await send();
    const second = await plan({ again: "once more for everybody" }, false);
    expect(await raw((await messages(second))[0].id)).toMatch(/^Subject: (Sent again: )?For Dock\r$/m);
  });
});

describe("what stands in the way of a message on our own side", () => {
  const identity = async (more: Record<string, unknown>) => {
    const { status, body } = await service.call<{ title?: string; code?: string }>("PUT", "/api/v1/identities/office", {
      settings: { from: "Office <office@lifts.example>", perMinute: 60_000, ...more },
    });
    expect([body.code ?? body.title, status]).toEqual([undefined, 200]);
  };
  const waits = async (run: string) => {
    expect(await send()).toEqual([]);
    const [message] = await messages(run);
    expect(message.state).toBe("queued");
    return message.response;
  };

  it("is told in the outbox, and nothing of it went: a receiver, a sender, a file or a picture that is not allowed or not there", async () => {
    const { database } = service.context;
    await identity({});
    const run = await plan();
    const again = () => database.execute("UPDATE messages SET not_before = NULL WHERE run_id = $1", [run]);
    await identity({ domains: ["lifts.example"] });
    expect(await waits(run)).toContain("Cannot send to ann@dock.example: the identity may send to lifts.example only.");
    await identity({});
    await again();
    await database.execute("UPDATE parcels SET attachments = '[\"gone.xlsx\"]' WHERE run_id = $1", [run]);
    expect(await waits(run)).toContain('Cannot attach "gone.xlsx": it was not made.');
    await database.execute("UPDATE parcels SET attachments = '[]' WHERE run_id = $1", [run]);
    await again();
    const picture = `<p><img src="cid:${Buffer.from("gone.png").toString("hex")}@corbix"></p>`;
    await database.execute("UPDATE messages SET html = $2 WHERE run_id = $1", [run, picture]);
    expect(await waits(run)).toContain('Cannot show the picture "gone.png": the run has no such file.');
    await database.execute("UPDATE messages SET html = '<p>Hello</p>' WHERE run_id = $1", [run]);
    await identity({});
    await again();
    expect(await send()).toHaveLength(1);
  });

  it("is said of a sender that the identity may not use any more", async () => {
    await identity({ senders: ["statements@lifts.example"] });
    await report("delivery: { sender: statements@lifts.example }\n");
    const run = await plan();
    await identity({});
    expect(await waits(run)).toContain("Cannot send as statements@lifts.example: the identity `office` may not.");
  });

  it("never is a text with a body of its own: a rehearsal says so first in it, and links stand last in it", async () => {
    await identity({});
    const html = "<html><body class='x'><p>Hello</p></body></html>";
    const source = (more: string) =>
      `report: own\ntitle: Own\ndata: own\nsplit: site\nonce: hand\nfiles: { rows: { name: "{{ site }}", table: {} } }\nmessage: { subject: "For {{ site }}", body: { html: "${html}" }, attach: [rows] }\n${more}`;
    await service.call("PUT", "/api/v1/reports/own", source(""));
    await plan({ rehearsalTo: "me@lifts.example" }, false);
    const [rehearsed] = await send();
    expect(rehearsed.to).toEqual(["me@lifts.example"]);
    const { simpleParser } = await import("mailparser");
    const shown = async (raw: string) => String((await simpleParser(Buffer.from(raw, "latin1"))).html);
    expect(await shown(rehearsed.raw)).toMatch(/<body[^>]*>\s*<p[^>]*><strong>Rehearsal\./);
    await service.call("PUT", "/api/v1/reports/own", source("delivery: { files: link }\n"));
    await plan();
    // Messages go side by side, so either may be the first.
    const linked = (await send()).sort((a, b) => a.to[0].localeCompare(b.to[0]));
    expect(linked.map((one) => one.to)).toEqual([["ann@dock.example", "chief@dock.example"], ["ben@dock.example"]]);
    expect(await shown(linked[0].raw)).toMatch(/<a href="[^"]+\/d\/[^"]+">[^<]+<\/a><\/p>\s*<\/body>/);
  });

  it("lets no address of a page of files lead anywhere but to its own message, while that goes", async () => {
    const { openLink } = await import("../../dist/outbox/links.js");
    const { context } = service;
    await report("delivery: { files: link }\n");
    const run = await plan({}, false);
    const [{ id }] = await messages(run);
    const last = Math.floor(Date.now() / 86_400_000) + 5;
    const made = (what: string) => `${what}.${context.secrets.sign(what)}`;
    for (const token of [
      "",
      "x",
      "1.2",
      `${id}.${last}`,
      `${id}.${last}.wrong`,
      made("x.y"),
      made(`999999.${last}`),
      made(`${id}.1`),
      made(`${id}.${last}`),
    ])
      await expect(openLink(context, token)).rejects.toThrow("This page is not there, or not any more.");
    await releaseRun(context, run, "test");
    expect(await openLink(context, made(`${id}.${last}`))).toMatchObject({
      message: id,
      label: "Dock",
      files: [{ path: "Dock.xlsx" }],
    });
  });
});
