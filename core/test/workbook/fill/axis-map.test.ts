import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { AxisMap, movesAtAll, type RepeatedSpan } from "../../../src/workbook/fill/axis-map.js";
import { envOf, rowsOf, span } from "../../support/axis.js";

const BY = (env: Parameters<NonNullable<RepeatedSpan["by"]>>[0], line: number): string =>
  String(env.table.columns[0].values[line]);
/** The lines of the template in the order in which they stand in the filled sheet, by their new numbers. */
function laid(map: AxisMap, count: number): string[] {
  const found: string[] = [];
  map.walk(
    Array.from({ length: count }, (_, line) => line),
    (line, { out, index, isVoid }) => {
      found[out] = `${line}${isVoid ? " void" : ""}${index > 0 ? `.${index}` : ""}`;
    },
  );
  return found;
}

describe("where lines of a template lie", () => {
  it("is where they were, where nothing repeats", () => {
    const map = new AxisMap([], envOf(["a"]));
    expect([map.moves, map.at(7), map.last(7)]).toEqual([false, 7, 7]);
  });

  it("is once for each line of the group, and what is below moves down", () => {
    const map = new AxisMap([span("line", 1, 1)], envOf(["a", "b", "c"]));
    expect(laid(map, 3)).toEqual(["0", "1", "1.1", "1.2", "2"]);
    expect([map.at(1), map.last(1), map.at(2)]).toEqual([1, 3, 4]);
  });

  it("of a group without lines is once, and blank", () => {
    const map = new AxisMap([span("line", 1, 2)], envOf([]));
    expect(laid(map, 4)).toEqual(["0", "1 void", "2 void", "3"]);
    expect(map.moves).toBe(false);
  });

  it("of rows that are left out is nowhere; references end at what is before them", () => {
    const map = new AxisMap([span("dropped", 1, 1), span("when", 2, 3, { test: () => false })], envOf(["a"]));
    expect(laid(map, 5)).toEqual(["0", "4"]);
    expect([map.at(1), map.last(1), map.at(3), map.last(3)]).toEqual([1, 0, 1, 0]);
    expect(laid(new AxisMap([span("when", 1, 1, { test: () => true })], envOf(["a"])), 3)).toEqual(["0", "1", "2"]);
  });

  it("of sub-groups is once for each, with their own lines inside", () => {
    const inner = span("line", 1, 1);
    const map = new AxisMap([span("by", 0, 2, { by: BY, children: [inner] })], envOf(["a", "b", "a"]));
    expect(laid(map, 4)).toEqual(["0", "1", "1.1", "2", "0", "1", "2", "3"]);
    const [first, second] = map.paths([map.sections[0]]);
    expect([map.at(1, first), map.last(1, first), map.at(2, second), map.last(1, second)]).toEqual([1, 2, 6, 5]);
    expect(map.paths([map.sections[0], inner])).toHaveLength(3);
  });

  it("of lists beside each other is as long as the longest, each showing its own", () => {
    const areas = [
      { from: 0, to: 1, lines: "line", where: (_: unknown, line: number) => line < 1 },
      { from: 3, to: 4, lines: "line" },
    ];
    const map = new AxisMap([span("line", 0, 0, { areas })], envOf(["a", "b", "c"]));
    const lists: unknown[] = [];
    map.walk([0], (_, spot) => lists.push([spot.index, spot.lists]));
    expect(lists).toHaveLength(3);
    expect(lists[0]).toEqual([0, [[0], [0, 1, 2]]]);
  });

  it("counts only the lines of its condition", () => {
    const map = new AxisMap([span("line", 0, 0, { where: (_, line) => line > 0 })], envOf(["a", "b", "c"]));
    expect(laid(map, 2)).toEqual(["0", "0.1", "1"]);
  });

  it("takes all repetitions of a single line at once where somebody can", () => {
    const map = new AxisMap([span("line", 1, 1)], envOf(["a", "b"]));
    const seen: string[] = [];
    map.walk(
      [0, 1, 2],
      (index, { out }) => seen.push(`${index} at ${out}`),
      (index, { start }) => {
        seen.push(`all of ${index} from ${start}`);
        return true;
      },
    );
    expect(seen).toEqual(["0 at 0", "all of 1 from 1", "2 at 3"]);
  });

  it("knows the sections around a span, from the outermost on", () => {
    const inner = span("line", 2, 2);
    const outer = span("by", 1, 3, { children: [inner] });
    const map = new AxisMap([outer], envOf(["a"]));
    expect(map.around({ from: 2, to: 2 })).toEqual([outer, inner]);
    expect(map.around({ from: 2, to: 3 })).toEqual([outer]);
    expect(map.around({ from: 0, to: 2 })).toEqual([]);
    expect(movesAtAll(rowsOf([outer], ["a", "b"]))).toBe(true);
  });

  it("is for every line of the filled sheet one of the template, without gaps, in order", () => {
    const sections = fc
      .array(
        fc.record({
          kind: fc.constantFrom("line", "by", "when", "dropped" as const),
          gap: fc.integer({ min: 0, max: 2 }),
          size: fc.integer({ min: 1, max: 3 }),
          inner: fc.boolean(),
          shown: fc.boolean(),
        }),
        { maxLength: 4 },
      )
      .map((list) => {
        let at = 0;
        return list.map(({ kind, gap, size, inner, shown }) => {
          const from = at + gap;
          at = from + size;
          const children = inner && kind !== "dropped" && kind !== "line" ? [span("line", from, from)] : [];
          return span(kind as RepeatedSpan["kind"], from, from + size - 1, { by: BY, test: () => shown, children });
        });
      });
    fc.assert(
      fc.property(sections, fc.array(fc.constantFrom("a", "b", "c"), { maxLength: 5 }), (list, keys) => {
        const map = new AxisMap(list, envOf(keys));
        const found: number[] = [];
        const outs: number[] = [];
        map.walk(
          Array.from({ length: 20 }, (_, line) => line),
          (line, { out }) => {
            found.push(line);
            outs.push(out);
          },
        );
        expect(outs).toEqual(outs.map((_, at) => at));
        expect(found.at(-1)).toBe(19);
        expect(map.at(19)).toBe(outs.length - 1);
        for (const section of list)
          if (section.kind === "line")
            expect(map.last(section.from) - map.at(section.from)).toBe(
              (Math.max(1, keys.length) - 1) * (section.to - section.from + 1),
            );
      }),
    );
  });
});
