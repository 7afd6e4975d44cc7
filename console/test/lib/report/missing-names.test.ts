import { lookAtDraft } from "@corbix/core/run";
import { describe, expect, it } from "vitest";
import { inputOf } from "../../../../core/test/support/small-run.js";
import { missingNames } from "../../../src/lib/report/missing-names.js";

describe("names that a template asks for and no column has", () => {
  it("are read from what stands in the way, each once", () => {
    const input = inputOf({
      report: "split: Site\nfiles:\n  list: { name: '{{ kunde }} {{ ort }}', table: {} }\n",
      rows: "Site,Fee\nDock,1\n",
    });
    const { problems } = lookAtDraft(input);
    expect(missingNames(problems.map(({ message }) => message))).toEqual(["kunde"]);
    expect(
      missingNames(["Cannot find the column `line.ort`.", "Cannot find the column `ort`.", "Cannot read it."]),
    ).toEqual(["ort"]);
  });
});
