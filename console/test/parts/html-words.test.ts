import fc from "fast-check";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { userEvent } from "vitest/browser";
import { render } from "vitest-browser-svelte";
import { insertable } from "../../src/lib/message.js";
import { isFormattableHtml, readHtml, writeHtml } from "../../src/lib/rich-text/html.js";
import { htmlWriting } from "../../src/lib/rich-text/html-editor.js";
import RichText from "../../src/parts/write/RichText.svelte";
import WordsField from "../../src/parts/write/WordsField.svelte";
import { answering, COLUMNS } from "./support.js";

const again = (html: string): string => writeHtml(readHtml(html));

/** What a browser makes of HTML: every element with its attributes and words, and how these read on a page. */
function shown(html: string): unknown {
  const { body } = new DOMParser().parseFromString(`<body>${html}`, "text/html");
  const part = (node: Node): unknown[] => {
    if (node instanceof Comment) return [{ remark: node.data }];
    if (!(node instanceof Element)) return [...(node.textContent ?? "").replace(/[ \t\n]+/g, "")];
    const attributes = [...node.attributes].map(({ name, value }) => `${name}=${value}`).sort();
    return [{ tag: node.localName, attributes, inside: [...node.childNodes].flatMap(part) }];
  };
  const page = document.createElement("div");
  page.innerHTML = html;
  document.body.append(page);
  // biome-ignore lint/performance/useDomNodeTextContent: how the words read is the point
  const read = page.innerText;
  page.remove();
  return { parts: part(body), read };
}

const LETTER = `<style>td { padding: 4px }</style>
<!--[if mso]><p>for one program</p><![endif]-->
<p style="color:#333">Dear <b>{{ recipient.name }}</b>,</p>
{{table line: unit, fee as "0.00" total}}
<table width="600" cellpadding="0"><tbody>
<tr><td align="right">Sum</td><td class="n"><strong>{{ sum(line.fee) as "#,##0.00" }}</strong><br>before &amp; after tax</td></tr>
<tr><td colspan="2"><p>One</p><p>Two &nbsp;<a href="https://lifts.example/{{ group.key }}?a=1&amp;b=2" title="x">see</a></p></td></tr>
</tbody></table>
<ul><li>first</li><li>second<ol><li>inner</li></ol></li></ul>
<hr>
<img src="logo.png" alt="Our mark" width="90">
Kind regards<br>the office`;

describe("HTML read and written again", () => {
  it("stays what it was: elements, attributes, remarks, style sheets, marks", () => {
    expect(isFormattableHtml(LETTER)).toBe(true);
    const marked = (html: string): string[] => html.match(/\{\{[\s\S]*?\}\}/g) ?? [];
    expect(shown(again(LETTER))).toEqual(shown(LETTER));
    expect(marked(again(LETTER))).toEqual(marked(LETTER));
    expect(again(again(LETTER))).toBe(again(LETTER));
  });

  it("keeps what stands around the body of a whole page", () => {
    const page = `<!DOCTYPE html><html lang="de"><head><title>T</title></head><body bgcolor="#fff">\n<p>Hello</p>\n</body></html>`;
    expect(isFormattableHtml(page)).toBe(true);
    expect(again(page)).toBe(page);
  });

  it.each([
    ["marks between the rows of a table", "<table>{{repeat line}}<tr><td>{{ line.fee }}</td></tr>{{end}}</table>"],
    ["words between the rows of a table", "<table>oops<tr><td>1</td></tr></table>"],
    ["blanks that count", "<pre>a   b</pre>"],
    ["blanks that count by a style", '<p style="white-space: pre-wrap">a   b</p>'],
    ["a page without a body", "<html><p>Hello</p></html>"],
  ])("is not shown formatted with %s", (_, html) => {
    expect(isFormattableHtml(html)).toBe(false);
  });

  it("is the same to a browser for any elements in each other, where it is shown formatted at all", () => {
    const word = fc.constantFrom("alpha", "b < c", "R & D", "{{ site }}", '{{ fee as "0.00" }}', "x");
    const inline: fc.Arbitrary<string> = fc.letrec<{ line: string; one: string }>((tie) => ({
      line: fc.array(tie("one"), { minLength: 1, maxLength: 3 }).map((all) => all.join(" ")),
      one: fc.oneof(
        { maxDepth: 2 },
        word.map((text) => text.replace(/&/g, "&amp;").replace(/</g, "&lt;")),
        fc.constantFrom("<br>", '<img src="a.png" alt="">', "<!-- r -->"),
        fc
          .tuple(
            fc.constantFrom("strong", "em", "b", "span", "u", 'a href="https://a.example/?x=1&amp;y={{ site }}"'),
            tie("line"),
          )
          .map(([tag, inner]) => `<${tag}>${inner}</${tag.split(" ")[0]}>`),
      ),
    })).line;
    const block: fc.Arbitrary<string> = fc.letrec<{ block: string; blocks: string }>((tie) => ({
      blocks: fc.array(tie("block"), { minLength: 1, maxLength: 3 }).map((all) => all.join("\n")),
      block: fc.oneof(
        { maxDepth: 3 },
        fc
          .tuple(fc.constantFrom("p", 'p style="color:red"', "h2", "div", "blockquote"), inline)
          .map(([tag, words]) => `<${tag}>${words}</${tag.split(" ")[0]}>`),
        tie("blocks").map((inner) => `<div class="a">${inner}</div>`),
        fc
          .array(inline, { minLength: 1, maxLength: 3 })
          .map((all) => `<ul>${all.map((one) => `<li>${one}</li>`).join("")}</ul>`),
        tie("blocks").map((inner) => `<table border="0"><tbody><tr><td>${inner}</td><td>x</td></tr></tbody></table>`),
      ),
    })).blocks;
    fc.assert(
      fc.property(block, (html) => {
        if (!isFormattableHtml(html)) return;
        expect(shown(again(html))).toEqual(shown(html));
      }),
      { numRuns: 300 },
    );
    // Hardly any of these may be refused, else the check says little.
    const all = fc.sample(block, 100);
    expect(all.filter(isFormattableHtml).length).toBeGreaterThan(85);
  });
});

describe("HTML written formatted", () => {
  beforeEach(() => {
    answering();
  });
  const props = (value: string) => ({
    value,
    writing: htmlWriting,
    label: "Words",
    insertions: insertable([...COLUMNS]),
    columns: [...COLUMNS],
    pictures: ["logo.png"],
    onchange: vi.fn<(text: string) => void>(),
  });
  const end = async (words: { getByText: (text: string) => { click: () => Promise<void> } }, text: string) => {
    await words.getByText(text).click();
    await userEvent.keyboard("{End}");
  };

  it("takes bold, headings, lists, links and chips, and everything around stays as it was", async () => {
    const given = props(
      '<p class="a">Dear all</p>\n<table><tbody><tr><td bgcolor="#eee">Sum</td></tr></tbody></table>\n',
    );
    const screen = await render(RichText, given);
    const words = screen.getByRole("textbox", { name: "Words" });
    await end(words, "Dear all");
    await userEvent.keyboard(" at ");
    await screen.getByLabelText("Put into words").selectOptions("Name of the group");
    expect(given.onchange).toHaveBeenLastCalledWith(
      '<p class="a">Dear all at {{ group.key }}</p>\n<table>\n  <tbody>\n    <tr>\n      <td bgcolor="#eee">Sum</td>\n    </tr>\n  </tbody>\n</table>\n',
    );
    await userEvent.keyboard("{Enter}one{Enter}two");
    await screen.getByRole("button", { name: "List", exact: true }).click();
    await userEvent.keyboard("{Enter}three{Enter}{Enter}Regards");
    await screen.getByRole("button", { name: "Heading" }).click();
    expect(given.onchange.mock.lastCall?.[0].split("<table>")[0]).toBe(
      '<p class="a">Dear all at {{ group.key }}</p>\n<p class="a">one</p>\n<ul>\n  <li>two</li>\n  <li>three</li>\n</ul>\n<h2>Regards</h2>\n',
    );
  });

  it("takes bold and links on words that are selected, and what is written behind a link is none of it", async () => {
    const given = props("<p><b>old</b> see</p>");
    const screen = await render(RichText, given);
    await end(screen.getByRole("textbox", { name: "Words" }), "see");
    await userEvent.keyboard("{Shift>}{ArrowLeft}{ArrowLeft}{ArrowLeft}{/Shift}");
    await screen.getByRole("button", { name: "Link" }).click();
    await screen.getByLabelText("Address of the link").fill("lifts.example/{{ group.key }}");
    await screen.getByRole("button", { name: "Set the link" }).click();
    await screen.getByRole("button", { name: "Bold" }).click();
    const linked = '<p><b>old</b> <a href="https://lifts.example/{{ group.key }}"><strong>see</strong></a>';
    expect(given.onchange).toHaveBeenLastCalledWith(`${linked}</p>\n`);
    await userEvent.keyboard("{ArrowRight} now");
    expect(given.onchange).toHaveBeenLastCalledWith(`${linked}<strong> now</strong></p>\n`);
    await userEvent.keyboard("{Control>}a{/Control}");
    await screen.getByRole("button", { name: "Bold" }).click();
    expect(given.onchange).toHaveBeenLastCalledWith(
      '<p>old <a href="https://lifts.example/{{ group.key }}">see</a> now</p>\n',
    );
  });

  it("breaks a line inside of a table's cell, and joins no cells", async () => {
    const given = props("<table><tbody><tr><td>one</td><td>two</td></tr></tbody></table>");
    const screen = await render(RichText, given);
    const words = screen.getByRole("textbox", { name: "Words" });
    await words.getByText("two").click();
    await userEvent.keyboard("{Home}{Backspace}{End}{Enter}lines");
    expect(given.onchange.mock.lastCall?.[0].replace(/\n\s*/g, "")).toBe(
      "<table><tbody><tr><td>one</td><td>two<br>lines</td></tr></tbody></table>",
    );
  });

  it("is shown as its source where somebody wants it, and where it holds more", async () => {
    const onchange = vi.fn<(text: string) => void>();
    const { writing: _, ...given } = { ...props("<p>Hello</p>"), kind: "html" as const, onchange };
    const screen = await render(WordsField, given);
    await screen.getByRole("button", { name: "Show its source" }).click();
    await expect.element(screen.getByRole("textbox", { name: "Words" })).toHaveValue("<p>Hello</p>");
    await screen.rerender({ ...given, value: "<table>{{repeat line}}<tr><td>x</td></tr>{{end}}</table>" });
    await expect.element(screen.getByText(/marks between the rows of a table/)).toBeVisible();
    await screen.getByLabelText("Put into words").selectOptions("Name of the group");
    expect(onchange.mock.lastCall?.[0]).toContain("{{ group.key }}");
  });
});
