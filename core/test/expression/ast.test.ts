import { namesIn, parseExpression } from "@corbix/core/expression";
import { describe, expect, it } from "vitest";

describe("names in an expression", () => {
  it.each([
    ["1 + 2", []],
    ["-fee", ["fee"]],
    ["fee * 1.1 & line.site", ["fee", "line.site"]],
    ["`Fee (CHF)` in (floor, ceiling, 3)", ["Fee (CHF)", "floor", "ceiling"]],
    ["if(open, upper(site), group.key)", ["open", "site", "group.key"]],
    ['sum(line.fee where line.result = "passed")', ["line.fee", "line.result"]],
    ["not (a or b)", ["a", "b"]],
  ])("%s names %j", (text, names) => {
    expect(namesIn(parseExpression(text)).map((parts) => parts.join("."))).toEqual(names);
  });
});
