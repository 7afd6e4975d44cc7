/** Properties that people and programs set in a package: ECMA-376 part 1, 22.3. */
import type { OoxmlPackage } from "./package.js";
import { OFFICE_RELATIONS } from "./relationships.js";
import { escapeXml } from "./xml.js";

const PART = "docProps/custom.xml";
const TYPES = "[Content_Types].xml";
const CONTENT = "application/vnd.openxmlformats-officedocument.custom-properties+xml";
const RELATION = `${OFFICE_RELATIONS}/custom-properties`;
/** Format of properties that people set: ECMA-376 part 1, 22.3.2.2. */
const FORMAT = "{D5CDD505-2E9C-101B-9397-08002B2CF9AE}";

/** The text of a property; blank without it. */
export function customProperty(opened: OoxmlPackage, name: string): string {
  const properties = opened.maybeXml(PART)?.elements("property") ?? [];
  return properties.find((one) => one.attr("name") === name)?.text ?? "";
}

/** The package with a property of a text, in the place of one of its name. */
export function withCustomProperty(opened: OoxmlPackage, name: string, text: string): OoxmlPackage {
  const value = `<vt:lpwstr>${escapeXml(text)}</vt:lpwstr>`;
  const known = opened.maybeXml(PART);
  if (!known) {
    const property = `<property fmtid="${FORMAT}" pid="2" name="${escapeXml(name)}">${value}</property>`;
    const xml = `<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n<Properties xmlns="http://schemas.openxmlformats.org/officeDocument/2006/custom-properties" xmlns:vt="http://schemas.openxmlformats.org/officeDocument/2006/docPropsVTypes">${property}</Properties>`;
    return opened.with(
      new Map([
        [PART, xml],
        [
          TYPES,
          opened
            .getText(TYPES)
            .replace(/<\/Types>/, `<Override PartName="/${PART}" ContentType="${CONTENT}"/></Types>`),
        ],
        [
          "_rels/.rels",
          opened
            .getText("_rels/.rels")
            .replace(
              /<\/Relationships>/,
              `<Relationship Id="corbixProperties" Type="${RELATION}" Target="${PART}"/></Relationships>`,
            ),
        ],
      ]),
    );
  }
  const properties = known.elements("property");
  const own = properties.find((one) => one.attr("name") === name);
  const part = opened.getText(PART);
  if (own)
    return opened.with(
      new Map([
        [PART, part.replace(own.toString(), (whole) => whole.replace(/<vt:lpwstr>[\s\S]*<\/vt:lpwstr>/, () => value))],
      ]),
    );
  const pid = Math.max(1, ...properties.map((one) => Number(one.attr("pid") ?? 1))) + 1;
  // A part without any is written as one tag.
  const whole = part.replace(/<(\w+:)?Properties\b([^>]*)\/>/, "<$1Properties$2></$1Properties>");
  const declared = /xmlns:vt=/.test(whole)
    ? whole
    : whole.replace(
        /<Properties\b/,
        '<Properties xmlns:vt="http://schemas.openxmlformats.org/officeDocument/2006/docPropsVTypes"',
      );
  return opened.with(
    new Map([
      [
        PART,
        declared.replace(
          /<\/Properties>/,
          (end) => `<property fmtid="${FORMAT}" pid="${pid}" name="${escapeXml(name)}">${value}</property>${end}`,
        ),
      ],
    ]),
  );
}
