import { describe, expect, it } from "vitest";
import { recordOf } from "../../../src/lib/report/record-form.js";

describe("a record of a form", () => {
  it("holds what its lines have alike once, and the rest in its lines", () => {
    expect(
      recordOf(
        [
          { No: "T-1", Room: "Hall 1", Name: "Ann", Company: "Dock" },
          { No: "T-1", Room: "Hall 1", Name: "Ben", Company: " " },
        ],
        "participants",
      ),
    ).toEqual({
      No: "T-1",
      Room: "Hall 1",
      participants: [{ Name: "Ann", Company: "Dock" }, { Name: "Ben" }],
    });
    expect(recordOf([{ No: "T-1", Name: "Ann", Room: "" }])).toEqual({ No: "T-1", Name: "Ann" });
  });
});
