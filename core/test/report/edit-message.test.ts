import { messageWords, parseReport, withMessageWords } from "@corbix/core/report";
import { describe, expect, it } from "vitest";

const SOURCE = `# The monthly statement.
report: statement
title: Statement
data: visits
split: site   # one for each site
files: {}
message:
  # What everybody gets.
  subject: "Lifts at {{ site }}"
  body: { template: monthly.html }
  languages:
    de:
      subject: Aufzüge
      body: { markdown: "Guten Tag" }
delivery:
  from: office
`;
const report = parseReport(SOURCE, "statement");
const words = messageWords(report, (name) => `<p>text of ${name}</p>`);

describe("a message's texts", () => {
  it("come from the definition and from the templates it names, in each language", () => {
    expect(words).toEqual({
      "": {
        subject: "Lifts at {{ site }}",
        kind: "html",
        body: "<p>text of monthly.html</p>",
        template: "monthly.html",
      },
      de: { subject: "Aufzüge", kind: "markdown", body: "Guten Tag" },
    });
  });

  it("go back without touching anything else: comments and order stay, and a second time nothing changes", () => {
    const once = withMessageWords(SOURCE, words);
    expect(once.templates).toEqual(new Map([["monthly.html", "<p>text of monthly.html</p>"]]));
    expect(once.source).toContain("# one for each site");
    expect(once.source).toContain("# What everybody gets.");
    expect(parseReport(once.source, "statement")).toEqual(report);
    expect(withMessageWords(once.source, words).source).toBe(once.source);
  });

  it("may move from a template into the definition and back, be added and taken out", () => {
    const { source } = withMessageWords(SOURCE, {
      "": { subject: "Dear: # all", kind: "text", body: 'Line one\n\n{{ site }}: "quoted"\n', text: "plain" },
      fr: { subject: "Ascenseurs", kind: "html", body: "<p>Bonjour</p>", template: "fr.html" },
    });
    const after = messageWords(parseReport(source, "statement"), () => "<p>Bonjour</p>");
    expect(Object.keys(after)).toEqual(["", "fr"]);
    expect(after[""]).toEqual({
      subject: "Dear: # all",
      kind: "text",
      body: 'Line one\n\n{{ site }}: "quoted"\n',
      text: "plain",
    });
    expect(after.fr.template).toBe("fr.html");
    const plain = withMessageWords(source, { "": { subject: "s", kind: "html", body: "<p>b</p>" } });
    expect(plain.source).not.toContain("languages");
    expect(plain.source).not.toContain("plain");
  });

  it("cannot be without the one everybody gets, nor be two texts in one file, nor be empty", () => {
    const [all, german] = [words[""], words.de];
    expect(() => withMessageWords(SOURCE, { de: german })).toThrow("without the text that everybody gets");
    expect(() => withMessageWords(SOURCE, { "": all, de: { ...german, template: "monthly.html" } })).toThrow(
      "two texts in one file, `monthly.html`",
    );
    expect(() => withMessageWords(SOURCE, { "": { ...all, subject: "" } })).toThrow("subject");
  });

  it("cannot reach another part of the definition, whatever stands in them", () => {
    const nasty = 'x"\ndelivery:\n  hold: false\n# {{ site }} &a *a !!js';
    const { source } = withMessageWords(SOURCE, { "": { subject: nasty, kind: "markdown", body: nasty } });
    const after = parseReport(source, "statement");
    expect(after.delivery).toEqual(report.delivery);
    expect(after.message).toMatchObject({ subject: nasty, body: { markdown: nasty } });
  });
});
