/** Bodies as people write them, HTML or Markdown, made ready for mail programs: styles stand in the elements themselves. */

import type Juice from "juice";
import MarkdownIt from "markdown-it";
import { CorbixError, packageOnUse } from "../common/index.js";
import { say } from "../words/index.js";

const juice = packageOnUse<typeof Juice>("juice");

/** A mark stands here while the markup around it is worked on; text has no business with these characters. */
const OPEN = "\ue000";
const CLOSE = "\ue001";

/** What a Markdown body looks like. */
const SHEET = `
h1 { font-size: 16pt; margin: 0 0 12px 0 }
h2 { font-size: 13pt; margin: 16px 0 8px 0 }
h3 { font-size: 11pt; margin: 12px 0 6px 0 }
p { margin: 0 0 10px 0 }
ul, ol { margin: 0 0 10px 0; padding-left: 24px }
blockquote { margin: 0 0 10px 0; padding-left: 12px; border-left: 3px solid #9db5b5 }
table { border-collapse: collapse; margin: 0 0 10px 0; font-size: 10pt }
th { border: 1px solid #9db5b5; padding: 4px 8px; text-align: left; background: #e6efef }
td { border: 1px solid #9db5b5; padding: 4px 8px }
`;

/** An HTML body with its own style sheet moved into its elements; what depends on the screen stays in the sheet. */
export function inlinedHtml(source: string): string {
  if (!/<style[\s>]/i.test(source)) return source;
  return withMarksAside(source, (html) =>
    juice()(html, { preserveMediaQueries: true, preserveFontFaces: false, removeStyleTags: true }),
  );
}

/** Markdown (CommonMark, with tables) as HTML; markup written in it shows as text. */
export function markdownHtml(source: string): string {
  const writer = new MarkdownIt({ html: false, linkify: true, typographer: false });
  return withMarksAside(source, (text) => juice().inlineContent(writer.render(text), SHEET)).replace(
    /<p[^>]*>\s*(\{\{\s*table\b[^}]*\}\})\s*<\/p>/g,
    "$1",
  );
}

/** Works on a text while its marks are out of reach. */
function withMarksAside(source: string, work: (text: string) => string): string {
  const marks: string[] = [];
  const text = source
    .replaceAll(OPEN, "")
    .replace(/\{\{[\s\S]*?\}\}/g, (mark) => `${OPEN}${marks.push(mark) - 1}${CLOSE}`);
  // Inside an address a mark is written with escapes.
  return work(text).replace(
    new RegExp(`(?:${OPEN}|${encodeURIComponent(OPEN)})(\\d+)(?:${CLOSE}|${encodeURIComponent(CLOSE)})`, "g"),
    (_, number: string) => marks[Number(number)],
  );
}

const PICTURE = /(<img\b[^>]*?\bsrc\s*=\s*)(?:"([^"]*)"|'([^']*)')/gi;

/** A body whose pictures are named as parts of the message, with the names of their files. */
export function withPictures(
  html: string,
  has: (name: string) => boolean,
  where: string,
): { html: string; pictures: string[] } {
  const pictures = new Set<string>();
  const named = html.replace(
    PICTURE,
    (whole, before: string, double: string | undefined, single: string | undefined) => {
      const name = (double ?? single ?? "").trim();
      if (/^(?:https?:|data:|cid:)/i.test(name) || name.includes("{{")) return whole;
      if (!has(name))
        throw new CorbixError("BAD_DEFINITION", say().message.cannotShowPictureSuchFile({ name }), {
          where,
          advice: say().message.uploadBesideTemplatesCorrectName(),
        });
      pictures.add(name);
      return `${before}"cid:${pictureId(name)}"`;
    },
  );
  return { html: named, pictures: [...pictures] };
}

/** Content-ID of a picture without its angle brackets (RFC 2392). */
export function pictureId(name: string): string {
  return `${Buffer.from(name).toString("hex")}@corbix`;
}

/** Names of the pictures that a finished message shows. */
export function picturesIn(html: string): string[] {
  return [
    ...new Set([...html.matchAll(/\bcid:([0-9a-f]+)@corbix/g)].map((match) => Buffer.from(match[1], "hex").toString())),
  ];
}
