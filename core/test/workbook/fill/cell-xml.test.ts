import { compileField, type Env } from "@corbix/core/expression";
import { CellError, type FormulaCell, type Scalar } from "@corbix/core/formula";
import { describe, expect, it } from "vitest";
import { isStored, placeValue, textElement, typeAttribute, writeScalar } from "../../../src/workbook/fill/cell-xml.js";
import { record } from "../../support/helpers.js";

describe("what a cell stores", () => {
  it.each<[Scalar, string | undefined, string]>([
    [null, undefined, ""],
    [0.1 + 0.2, undefined, "0.30000000000000004"],
    [-0, undefined, "0"],
    [Number.NaN, undefined, "0"],
    [Number.POSITIVE_INFINITY, undefined, "0"],
    [true, "b", "1"],
    [false, "b", "0"],
    ["Quay & <Dock>", "str", "Quay &amp; &lt;Dock&gt;"],
    [CellError.of("#N/A"), "e", "#N/A"],
    [CellError.of("#SPILL!"), "e", "#VALUE!"],
    [CellError.of("#CIRC!"), "e", "#REF!"],
  ])("of %s is type %s, value %s", (value, type, text) => {
    expect(writeScalar(value)).toEqual({ type, value: text });
    expect(typeAttribute(writeScalar(value).type)).toBe(type === undefined ? "" : ` t="${type}"`);
  });

  it.each([
    ["Dock", "<x:t>Dock</x:t>"],
    [" Dock", '<x:t xml:space="preserve"> Dock</x:t>'],
    ["Dock ", '<x:t xml:space="preserve">Dock </x:t>'],
    ["Dock\nQuay", '<x:t xml:space="preserve">Dock\nQuay</x:t>'],
    ["<&>", "<x:t>&lt;&amp;&gt;</x:t>"],
  ])("text %j keeps its blanks", (text, xml) => {
    expect(textElement("x:", text)).toBe(xml);
  });
});

describe("a result that is stored already", () => {
  const cell = (stored: FormulaCell["stored"]) => ({ stored }) as FormulaCell;
  it.each<[FormulaCell["stored"], Scalar | undefined, boolean]>([
    [0.3, 0.1 + 0.2, true],
    [0.3, 0.300_000_001, false],
    [null, 0, true],
    [0, undefined, true],
    ["7", 7, false],
    [CellError.of("#N/A"), CellError.of("#N/A"), true],
    [CellError.of("#N/A"), CellError.of("#REF!"), false],
  ])("%s and %s: %s", (stored, result, same) => {
    expect(isStored(cell(stored), result)).toBe(same);
  });
});

describe("a field's value in a cell", () => {
  const { scope, env } = record({ site: "Dock", lines: [{ day: "2026-11-02", fee: 12.5 }] });
  const place = (text: string, at: Env = env) =>
    placeValue(
      {
        kind: "value",
        field: compileField(text, scope),
        style: 1,
        styles: { date: 2, datetime: 3, time: 4 },
      } as Parameters<typeof placeValue>[0],
      at,
    );

  it("has the format its kind asks for", () => {
    expect(place("site")).toEqual({ value: "Dock", style: 1 });
    expect(place("date(2026, 11, 2)")).toEqual({ value: 46_328, style: 2 });
    expect(place("sum(line.fee) * 2")).toEqual({ value: 25, style: 1 });
  });

  it("of the current line is the column as it is stored", () => {
    expect(place("line.fee", { ...env, row: 0 })).toEqual({ value: 12.5, style: 1 });
    expect(place("line.day", { ...env, row: 0 })).toEqual({ value: 46_328, style: 2 });
  });
});
