import { envelopeOf, MessageTemplate, messageId } from "@corbix/core/message";
import { describe, expect, it } from "vitest";
import { record } from "./helpers.js";

const value = {
  site: '<b>Dock</b> & "Quay"',
  lines: [
    { day: "2026-10-05", unit: "<script>", fee: 0.1 },
    { day: "2026-10-06", unit: "L2", fee: 0.2 },
  ],
};
const compose = (subject: string, body: { html: string } | { text: string }, record_ = value) => {
  const { scope, env } = record(record_);
  return MessageTemplate.read({ subject, body }, "mail").bind(scope).compose(env);
};

describe("messages", () => {
  it("escapes values in HTML and leaves them as they are in text", () => {
    const message = compose("About {{ site }}", { html: "<p>For {{ site }}</p>" });
    expect(message.html).toContain("For &lt;b&gt;Dock&lt;/b&gt; &amp; &quot;Quay&quot;");
    expect(message.text).toBe('For <b>Dock</b> & "Quay"');
    expect(message.subject).toBe('About <b>Dock</b> & "Quay"');
  });

  it("makes a table of lines with borders, headings, formats and an exact total", () => {
    const { html, text } = compose("x", {
      html: '{{table line: day headed "Date" as "dd/mm/yyyy", unit, fee as "0.00" total}}',
    });
    expect(html).toMatch(/<th style="border:1px solid[^"]*">Date<\/th>/);
    expect(html).toContain("&lt;script&gt;");
    expect(html).toMatch(/text-align:right">0\.30<\/td><\/tr><\/tbody>/);
    expect(text.split("\n").map((line) => line.trim().split(/\s{2,}/))).toEqual([
      ["Date", "Unit", "Fee"],
      ["05/10/2026", "<script>", "0.10"],
      ["06/10/2026", "L2", "0.20"],
      ["Total", "0.30"],
    ]);
  });

  it("turns plain text into paragraphs", () => {
    expect(compose("x", { text: "Dear {{ site }}\n\nBye\nOffice" }).html).toContain("<p>Bye<br>Office</p>");
  });

  it("keeps a subject on one line whatever stands in the data", () => {
    expect(compose("Re {{ site }}", { text: "x" }, { ...value, site: "Dock\r\nBcc: evil@x.example" }).subject).toBe(
      "Re Dock Bcc: evil@x.example",
    );
  });

  it("refuses scripts and unknown columns in a body", () => {
    expect(() => compose("x", { html: "<script>1</script>" })).toThrow("scripts");
    expect(() => compose("x", { html: "{{table line: nosuch}}" })).toThrow("Cannot find the column `nosuch`");
    expect(() => compose("x", { html: "{{table line}}" })).toThrow("without columns");
  });

  it("has one Message-ID per delivery and another for each attempt", () => {
    const key = { report: "r", period: "2026-10", group: "dock", attempt: 1 };
    expect(messageId(key, "x.example")).toBe(messageId({ ...key }, "x.example"));
    expect(messageId(key, "x.example")).not.toBe(messageId({ ...key, attempt: 2 }, "x.example"));
    expect(messageId(key, "x.example")).toMatch(/^<[0-9a-f]{40}@x\.example>$/);
  });

  it("writes to each address once, in its strongest role", () => {
    const base = { group: "g", key: "g", name: "Ann", blindCopies: [], fields: {}, row: 1 };
    const envelope = envelopeOf([
      { ...base, to: [{ address: "a@x.example" }], copies: [{ address: "B@x.example" }] },
      {
        ...base,
        to: [{ address: "b@x.example", name: "Ben" }],
        copies: [{ address: "a@x.example" }, { address: "c@x.example" }],
      },
    ]);
    expect(envelope.to.map((one) => one.address)).toEqual(["a@x.example", "b@x.example"]);
    expect(envelope.cc.map((one) => one.address)).toEqual(["c@x.example"]);
  });
});
