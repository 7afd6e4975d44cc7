/** What a report of delivery makes of a message. */
import { describe, expect, it } from "vitest";
import { afterReport } from "../../dist/outbox/reports.js";

const taken = { state: "taken" as const, response: "250" };
const sent = (results: object, more: object = {}) =>
  ({ state: "sent", results, response: "250 ok", ...more }) as Parameters<typeof afterReport>[0];
const about = (address: string, action: "failed" | "delayed" | "delivered" | "relayed" | "expanded", words = "") => ({
  address,
  action,
  status: "5.0.0",
  words,
});

describe("a report of delivery", () => {
  it("makes a message returned where it came back from everybody, and keeps what was said", () => {
    const results = { "ann@a.example": taken, "ben@a.example": { state: "refused" as const, response: "550" } };
    expect(afterReport(sent(results), [about("ANN@a.example", "failed", "no such box")])).toEqual({
      state: "returned",
      results: { ...results, "ann@a.example": { state: "returned", response: "no such box" } },
      response: "250 ok; came back from ANN@a.example: no such box",
    });
  });

  it("leaves it sent where somebody has it, whatever else is said", () => {
    const results = { "ann@a.example": taken, "ben@a.example": taken };
    const told = afterReport(sent(results), [
      about("ann@a.example", "failed", "full"),
      about("ben@a.example", "delayed", "slow"),
    ]);
    expect(told.state).toBe("sent");
    expect(told.results["ben@a.example"]).toEqual({ state: "delayed", response: "slow" });
  });

  it.each(["delivered", "relayed", "expanded"] as const)(
    "that it was %s proves that an unsure message went out",
    (action) => {
      const told = afterReport(sent({}, { state: "unsure", response: null }), [
        about("ann@a.example", action, "2.0.0"),
      ]);
      expect(told).toEqual({
        state: "sent",
        results: { "ann@a.example": { state: "delivered", response: "2.0.0" } },
        response: "",
      });
    },
  );

  it("brings back to sent what had come back, once it is delivered", () => {
    const results = { "ann@a.example": { state: "returned" as const, response: "full" } };
    expect(afterReport(sent(results, { state: "returned" }), [about("ann@a.example", "delivered")]).state).toBe("sent");
  });

  it("does not move a message that waits or was given up", () => {
    for (const state of ["queued", "refused", "skipped"])
      expect(afterReport(sent({ "ann@a.example": taken }, { state }), [about("ann@a.example", "failed")]).state).toBe(
        state,
      );
  });
});
