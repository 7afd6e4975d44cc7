import { describe, expect, it } from "vitest";
import { type MailFacts, mailParts } from "../../src/run/mail-parts.js";

const facts: MailFacts = {
  report: {
    delivery: {
      replyTo: "office@lifts.example",
      importance: "high",
      headers: { "X-Office": "North", "X-Corbix-Run": "forged" },
    } as unknown as MailFacts["report"]["delivery"],
  },
  run: "run-7",
  from: "reports@lifts.example",
  envelope: {
    from: "bounce@lifts.example",
    to: [{ address: "ann@dock.example" }],
    cc: [{ address: "ben@dock.example" }],
    bcc: [{ address: "chief@lifts.example" }],
  } as unknown as MailFacts["envelope"],
  message: { subject: "Visits", html: "<p>Hello</p>", text: "Hello" },
  messageId: "<1@lifts.example>",
  date: new Date("2026-11-02T08:00:00Z"),
  language: "en-GB",
  attachments: [],
};

describe("the parts of a message", () => {
  it("are what its report and its envelope say, without who gets it unseen", () => {
    const parts = mailParts(facts);
    expect(parts).toMatchObject({
      from: "reports@lifts.example",
      replyTo: "office@lifts.example",
      importance: "high",
      to: [{ address: "ann@dock.example" }],
      cc: [{ address: "ben@dock.example" }],
      subject: "Visits",
      language: "en-GB",
    });
    expect(JSON.stringify(parts)).not.toContain("chief@lifts.example");
  });

  it("name the run they are of, whatever a report's own header says", () => {
    expect(mailParts(facts).headers).toEqual({ "X-Office": "North", "X-Corbix-Run": "run-7" });
  });
});
