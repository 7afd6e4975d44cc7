import {
  envelopeOf,
  MessageTemplate,
  messageId,
  messageParts,
  parseDeliveryStatus,
  picturesIn,
  secondsToSend,
} from "@corbix/core/message";
import type { Recipient } from "@corbix/core/recipients";
import { describe, expect, it } from "vitest";
import { record } from "../support/helpers.js";

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

  it("has one Message-ID per delivery and another for each attempt and part", () => {
    const key = { report: "r", period: "2026-10", group: "dock", part: "", attempt: 1 };
    expect(messageId(key, "x.example")).toBe(messageId({ ...key }, "x.example"));
    expect(messageId(key, "x.example")).not.toBe(messageId({ ...key, attempt: 2 }, "x.example"));
    // A part is told from a group whose name looks like one.
    const parts = [{ part: "de" }, { group: "dock / de" }, { part: "fr" }];
    expect(new Set(parts.map((one) => messageId({ ...key, ...one }, "x.example"))).size).toBe(3);
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

describe("bodies", () => {
  const read = (body: { html: string } | { markdown: string }, text?: string) => {
    const { scope, env } = record(value);
    return MessageTemplate.read({ subject: "x", body, text }, "mail", (name) => name === "logo.png")
      .bind(scope)
      .compose(env);
  };

  it("are written as Markdown with marks in it, and bear their looks in each element", () => {
    const { html, text } = read({
      markdown:
        '# Statement\n\nDear **{{ site }}**, *read* [this](https://x.example/?a={{ count(line) }}):\n\n- {{ sum(line.fee) as "0.00" }}\n\n| a | b |\n|---|---|\n| 1 | {{ count(line) }} |\n\n{{table line: unit, fee total}}\n\n<b>no markup</b>',
    });
    expect(html).toMatch(/<h1 style="[^"]*font-size: 16pt/);
    expect(html).toContain("<strong>&lt;b&gt;Dock&lt;/b&gt; &amp; &quot;Quay&quot;</strong>");
    expect(html).toContain('href="https://x.example/?a=2"');
    expect(html).toMatch(/<li[^>]*>0\.30<\/li>/);
    expect(html).toMatch(/<td style="[^"]*border: 1px solid #9db5b5[^"]*">2<\/td>/);
    expect(html).not.toMatch(/<p[^>]*>\s*<table/);
    expect(html).toContain("&lt;b&gt;no markup&lt;/b&gt;");
    expect(text).toContain("Statement");
    expect(text).toMatch(/Unit\s+Fee/);
  });

  it("have their style sheet moved into the elements, but for what depends on the screen", () => {
    const { html } = read({
      html: '<html><head><style>p.note { color: #aa0000 } td { border: 1px solid #000 } @media (prefers-color-scheme: dark) { p { color: white } }</style></head><body><p class="note">{{ site }}</p><table><tr><td>{{ count(line) as "0" }}</td></tr></table></body></html>',
    });
    expect(html).toMatch(/<p class="note" style="color: #aa0000;?">/);
    expect(html).toMatch(/<td style="border: 1px solid #000;?">2<\/td>/);
    expect(html).toMatch(/@media \(prefers-color-scheme: dark\)/);
    expect(html).not.toContain("p.note {");
  });

  it("show pictures that come with the message, and name one that is not there", () => {
    const { html } = read({ html: '<p><img alt="Our sign" src="logo.png"> <img src="https://x.example/a.png"></p>' });
    expect(picturesIn(html)).toEqual(["logo.png"]);
    expect(html).toContain('src="https://x.example/a.png"');
    expect(() => read({ html: '<img src="nosuch.png">' })).toThrow("Cannot show the picture `nosuch.png`");
  });

  it("have their own plain text where one is written", () => {
    expect(read({ html: "<p>long</p>" }, "Short: {{ site }}\n{{table line: unit}}").text).toMatch(
      /^Short: <b>Dock<\/b> & "Quay"\n\nUnit\s+<script>\s+L2/,
    );
  });
});

describe("messages of a group", () => {
  const person = (name: string, more: Partial<Recipient> = {}): Recipient => ({
    group: "Dock",
    key: "dock",
    name,
    to: [{ address: `${name.toLowerCase()}@dock.example` }],
    copies: [],
    blindCopies: [],
    fields: {},
    row: 2,
    ...more,
  });
  const people = [
    person("Ann"),
    person("Ben", { language: "de-CH" }),
    person("Cid", { language: "de" }),
    person("Dee", { language: "fr" }),
    person("Eve", { role: "copy" }),
  ];
  const shown = (how: Parameters<typeof messageParts>[1], all = people) =>
    messageParts(all, how).map((one) => [
      one.part,
      one.language,
      one.recipients.map((recipient) => recipient.name).join(),
    ]);

  it("are one, one for each language, or one for each person; copies go once", () => {
    expect(shown({ each: "group", languages: [] })).toEqual([["", undefined, "Ann,Ben,Cid,Dee,Eve"]]);
    expect(shown({ each: "group", languages: ["de", "it"] })).toEqual([
      ["", undefined, "Ann,Dee,Eve"],
      ["de", "de", "Ben,Cid"],
    ]);
    expect(shown({ each: "person", languages: ["de"] })).toEqual([
      ["ann@dock.example", undefined, "Ann,Eve"],
      ["ben@dock.example", "de", "Ben"],
      ["cid@dock.example", "de", "Cid"],
      ["dee@dock.example", undefined, "Dee"],
    ]);
    expect(shown({ each: "group", languages: [] }, [people[4]])).toEqual([]);
  });

  it("name people in the line their role asks for, and fixed copies, each address once", () => {
    const envelope = envelopeOf([...people.slice(0, 1), people[4], person("Fay", { role: "blind" })], {
      copies: [{ address: "EVE@dock.example" }, { address: "office@lifts.example" }],
      blindCopies: [{ address: "archive@lifts.example" }],
    });
    expect(envelope.to.map((one) => one.address)).toEqual(["ann@dock.example"]);
    expect(envelope.cc.map((one) => one.address)).toEqual(["eve@dock.example", "office@lifts.example"]);
    expect(envelope.bcc.map((one) => one.address)).toEqual(["fay@dock.example", "archive@lifts.example"]);
  });
});

describe("reports of delivery", () => {
  it("are read for each address, with folded lines and whatever else they hold", () => {
    const report = parseDeliveryStatus(
      "Reporting-MTA: dns; mx.dock.example\r\nArrival-Date: Mon, 2 Nov 2026 09:00:00 +0000\r\n\r\nOriginal-Recipient: rfc822;Ann@dock.example\r\nFinal-Recipient: rfc822; a1@dock.example\r\nAction: failed\r\nStatus: 5.1.1\r\nDiagnostic-Code: smtp; 550 5.1.1\r\n no such mailbox\r\n\r\nFinal-Recipient: rfc822; ben@dock.example\r\nAction: Delayed\r\nStatus: 4.2.2 (full)\r\n\r\nFinal-Recipient: rfc822; x@dock.example\r\nAction: nonsense\r\n",
    );
    expect(report).toEqual({
      reporter: "mx.dock.example",
      recipients: [
        { address: "Ann@dock.example", action: "failed", status: "5.1.1", words: "550 5.1.1 no such mailbox" },
        { address: "ben@dock.example", action: "delayed", status: "4.2.2", words: "4.2.2" },
      ],
    });
    expect(parseDeliveryStatus("").recipients).toEqual([]);
  });
});

describe("how long sending takes", () => {
  it("follows the pace by the minute, and the hour where that is less", () => {
    expect(secondsToSend(0, { perMinute: 60 })).toBe(0);
    expect(secondsToSend(1, { perMinute: 60 })).toBe(0);
    expect(secondsToSend(121, { perMinute: 60 })).toBe(120);
    expect(secondsToSend(100, { perMinute: 60, perHour: 100 })).toBe(99);
    expect(secondsToSend(100, { perMinute: 60, perHour: 100 }, 50)).toBe(3600);
    expect(secondsToSend(250, { perMinute: 6000, perHour: 100 }, 100)).toBe(3 * 3600);
  });
});
