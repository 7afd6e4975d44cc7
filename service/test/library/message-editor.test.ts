/** A message written over HTTP as the console does: seen for any group before it is kept, and kept whole or not at all. */
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";

interface Words {
  [language: string]: { subject: string; kind: string; body: string; template?: string; text?: string };
}
interface Editable {
  readonly version: number;
  readonly words: Words;
  readonly columns: readonly { readonly name: string; readonly type: string }[];
}
interface Tried {
  readonly period: string;
  readonly group: string;
  readonly groups: readonly { readonly key: string }[];
  readonly messages: readonly {
    readonly language: string;
    readonly people: readonly string[];
    readonly subject: string;
    readonly html: string;
    readonly text: string;
  }[];
}

const MESSAGE = "/api/v1/reports/site-statement/message";
let service: TestService;
beforeAll(async () => {
  service = await testService(inject("databaseUrl"));
});
afterAll(() => service?.close());

const save = (words: object, version: number) =>
  service.call("PUT", MESSAGE, { words }, { "If-Match": `"${version}"` });
const editable = async (): Promise<Editable> => (await service.call<Editable>("GET", MESSAGE)).body;
const preview = (words: Words, group?: string) =>
  service.call<Tried>("POST", `${MESSAGE}/preview`, { words, period: "2026-10", ...(group ? { group } : {}) });
const counts = async (): Promise<object[]> =>
  service.context.database.select(
    "SELECT (SELECT count(*)::int FROM template_versions) AS templates, (SELECT count(*)::int FROM report_versions) AS reports",
  );

describe("a report's message", () => {
  it("is shown as any group would get it, while it is written, and nothing is kept", async () => {
    const before = await counts();
    const { words, columns } = await editable();
    expect(words[""]).toMatchObject({ kind: "html", template: "monthly.html" });
    expect(columns.map(({ name }) => name)).toContain("Site");
    words[""].body = "<p>Dear {{ recipient.name }}, {{ count(line) }} visits</p>";
    words.de = {
      subject: "Prüfungen {{ site }}, {{ period.label }}",
      kind: "markdown",
      body: "Guten Tag **{{ recipient.name }}**",
    };
    const { body } = await preview(words, "Harbour House");
    expect([body.period, body.groups.length]).toEqual(["2026-10", 26]);
    const [own, german] = body.messages;
    expect(own).toMatchObject({
      language: "",
      people: ["silas.montague@harbourhouse.example"],
      subject: "Lift inspections at Harbour House, October 2026",
      text: "Dear Silas Montague, 9 visits",
    });
    expect(german).toMatchObject({ language: "de", people: [], subject: "Prüfungen Harbour House, Oktober 2026" });
    expect(german.html).toContain("<strong>Silas Montague</strong>");
    expect(await counts()).toEqual(before);
  });

  it("names the address that it comes from: that of the report's identity, not of the service", async () => {
    const { words } = await editable();
    words[""] = { subject: "Ask us", kind: "text", body: "Write to {{ run.sender }}" };
    const shown = async () => (await preview(words, "Harbour House")).body.messages[0].text;
    expect(await shown()).toBe("Write to office@lifts.example");
    const set = { settings: { from: "Lift desk <desk@lifts.example>" } };
    expect((await service.call("PUT", "/api/v1/identities/office", set)).status).toBe(200);
    expect(await shown()).toBe("Write to desk@lifts.example");
  });

  it("says where a mark is wrong, in the preview and when it is saved, and keeps nothing then", async () => {
    const before = await counts();
    const { words, version } = await editable();
    words[""].subject = "Changed";
    words[""].body = "<p>{{ sum(line.fes) }}</p>";
    for (const answer of [await preview(words), await save(words, version)]) {
      expect(answer.status).toBe(422);
      expect(JSON.stringify(answer.body)).toMatch(/fes[\s\S]*Fee/i);
    }
    words[""].body = "<p>Dear {{ recipient.nam }}</p>";
    expect(JSON.stringify((await preview(words)).body)).toMatch(/recipient.nam[\s\S]*Did you mean .*name/);
    words[""].body = "<p onclick=alert(1)>x</p>";
    expect(JSON.stringify((await preview(words)).body)).toContain("scripts");
    expect(await counts()).toEqual(before);
  });

  it("is kept as the template's and the report's next versions, goes out so, and not over what somebody else saved", async () => {
    const { words, version } = await editable();
    words[""].body = "<p>Dear {{ recipient.name }}, as we said.</p>";
    words[""].subject = "Written anew: {{ site }}";
    const saved = await save(words, version);
    expect(saved.body).toEqual({ version: version + 1, templates: ["monthly.html"] });
    expect((await editable()).words).toEqual(words);
    const late = await save(words, version);
    expect(late).toMatchObject({ status: 412, body: { code: "CHANGED_MEANWHILE" } });
    expect(JSON.stringify(late.body)).toContain("office saved it since it was read");
    // The same again makes no version.
    expect((await save(words, version + 1)).body).toEqual({
      version: version + 1,
      templates: [],
    });
    const run = await service.call<{ id: string }>("POST", "/api/v1/runs", {
      report: "site-statement",
      period: "2026-10",
      groups: ["Harbour House"],
    });
    await service.waitFor(run.body.id, ["held"]);
    const [first] = await service.list<{ number: number }>(`/api/v1/runs/${run.body.id}/parcels`);
    const parcel = await service.call<{ message: { subject: string }; text: string }>(
      "GET",
      `/api/v1/runs/${run.body.id}/parcels/${first.number}`,
    );
    expect(parcel.body.message.subject).toBe("Written anew: Harbour House");
    expect(parcel.body.text).toBe("Dear Silas Montague, as we said.");
  });
});
