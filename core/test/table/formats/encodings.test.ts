import { CorbixError } from "@corbix/core/common";
import { loadTable } from "@corbix/core/table";
import iconv from "iconv-lite";
import { describe, expect, it } from "vitest";
import { TEXTS } from "../../support/tables/languages.js";

const cellsOf = (bytes: Uint8Array, options = {}) => {
  const loaded = loadTable(bytes, "file.csv", options);
  const rows = Array.from({ length: loaded.table.rowCount }, (_, row) =>
    loaded.table.columns.map((column) => column.values[row]).join(";"),
  );
  return { loaded, text: [loaded.table.columns.map((column) => column.name).join(";"), ...rows] };
};
const codesOf = (loaded: ReturnType<typeof loadTable>) => loaded.findings.map((finding) => finding.code);

const TOLD = TEXTS.flatMap(({ language, lines, encodings }) =>
  ["utf8", ...encodings].map((encoding) => [language, encoding, lines] as const),
);

describe("encodings", () => {
  it.each(TOLD)("%s in %s", (_, encoding, lines) => {
    const { loaded, text } = cellsOf(iconv.encode(`${lines.join("\n")}\n`, encoding));
    expect(text).toEqual(lines);
    expect(codesOf(loaded)).not.toContain("damaged-letters");
  });

  it("a single word in an unlikely encoding is a guess, and told with its other reading", () => {
    const { loaded } = cellsOf(iconv.encode("Site;Inspector\nDock;Ðuro\nQuay;Ann\n", "windows-1252"));
    const unsure = loaded.findings.find((one) => one.code === "encoding-unsure");
    expect(unsure).toMatchObject({ severity: "warn" });
    expect(unsure?.what).toMatch(/Ðuro|Đuro/);
  });

  it("is read as it was corrected, and an unknown name is refused", () => {
    const bytes = iconv.encode("Site;Inspector\nDock;Šuster\n", "windows-1250");
    const { loaded, text } = cellsOf(bytes, { encoding: "windows-1251" });
    expect(text[1]).toBe("Dock;Љuster");
    expect(loaded.decisions.find((one) => one.what === "encoding")).toMatchObject({ corrected: true });
    expect(() => cellsOf(bytes, { encoding: "klingon-1" })).toThrow(CorbixError);
  });

  it("UTF-8 with a few damaged bytes stays UTF-8, and the cells are named", () => {
    const good = Buffer.from("Site;Inspector\nKäfertal;Jörg\nMühle;Zoë\nSüd;Ann\n");
    const bytes = Buffer.concat([good, Buffer.from([0x4e, 0xf6, 0x72, 0x64]), Buffer.from(";Änne\n")]);
    const { loaded, text } = cellsOf(bytes);
    expect(loaded.reading.encoding).toBe("UTF-8");
    expect(text.slice(0, 4)).toEqual(good.toString().trim().split("\n"));
    const damaged = loaded.findings.find((one) => one.code === "damaged-letters");
    expect(damaged).toMatchObject({ severity: "warn", count: 1, cells: { rows: [5] } });
    expect(damaged?.what).toContain("row 5, Site");
  });

  it.each([
    [
      "a mail",
      "From: ann@dock.example\nTo: ben@quay.example\nSubject: Visits\nMIME-Version: 1.0\n\nSite,Fee\nDock,3\n",
      "mail message",
    ],
    [
      "a mail with folded fields",
      "Received: from a.example\n\tby b.example;\n\tMon, 2 Nov 2026 08:00:00 +0100\nFrom: ann@dock.example\nContent-Type: text/plain\n\nHello\n",
      "mail message",
    ],
    ["a web page", "<!DOCTYPE html>\n<table><tr><td>Site</td></tr></table>", "web page"],
    ["XML", '<?xml version="1.0"?><rows><row site="Dock"/></rows>', "XML"],
    ["a PDF", "%PDF-1.7\n1 0 obj\n", "PDF"],
    ["a text document", "{\\rtf1\\ansi Site}", "text document"],
    ["a calendar", "BEGIN:VCALENDAR\nVERSION:2.0\nEND:VCALENDAR\n", "calendar"],
  ])("%s is no table", (_, text, what) => {
    expect(() => cellsOf(Buffer.from(text))).toThrow(what);
  });

  it("a table whose first cell ends with a colon is one", () => {
    expect(cellsOf(Buffer.from("Site:,Fee:\nDock,3\nQuay,4\n")).loaded.table.rowCount).toBe(2);
  });
});

describe("delimiters", () => {
  it.each([
    ["decimal commas between semicolons", "Site;Fee;Rate\nDock;92,50;1,5\nQuay;80,00;2,5\n", "semicolon", 3],
    ["a comma in each first cell", "Place;Fee\nDock, North;3\nQuay, South;4\n", "semicolon", 2],
    ["bars in remarks between tabs", "Site\tRemark\tFee\nDock\ta|b\t3\nQuay\tc|d\t4\n", "tabulator", 3],
    ["quoted commas", 'Site,Remark\n"Dock, North","a, b, c"\nQuay,x\n', "comma", 2],
    ["semicolons in quoted cells", 'Site,Remark,Fee\nDock,"a; b; c",3\nQuay,"d; e; f",4\n', "comma", 3],
  ])("%s", (_, text, delimiter, columns) => {
    const { loaded } = cellsOf(Buffer.from(text));
    expect(loaded.reading.delimiter).toBe(delimiter);
    expect(loaded.table.columns).toHaveLength(columns);
    expect(codesOf(loaded)).not.toContain("delimiter-unsure");
  });

  it("one that is hardly better than another is told, and can be corrected", () => {
    const text = Buffer.from("Place,North;Fee\nDock,1;3\nQuay,2;4\n");
    expect(codesOf(cellsOf(text).loaded)).toContain("delimiter-unsure");
    const { loaded } = cellsOf(text, { delimiter: "semicolon" });
    expect(loaded.table.columns.map((column) => column.name)).toEqual(["Place,North", "Fee"]);
    expect(codesOf(loaded)).not.toContain("delimiter-unsure");
    expect(cellsOf(Buffer.from("Site^Fee\nDock^3\n"), { delimiter: "^" }).text).toEqual(["Site;Fee", "Dock;3"]);
  });

  it("quotes that are none are kept", () => {
    const { text } = cellsOf(Buffer.from('Size,Part\n3" pipe,bend\n"4" pipe,bend\n'), { quote: "none" });
    expect(text).toEqual(["Size;Part", '3" pipe;bend', '"4" pipe;bend']);
  });
});
