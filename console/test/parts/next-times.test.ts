import { describe, expect, it } from "vitest";
import { render } from "vitest-browser-svelte";
import NextTimes from "../../src/parts/build/NextTimes.svelte";

describe("the next times of a schedule", () => {
  it("stand on a calendar and in words", async () => {
    const times = [
      { at: "2026-12-04T17:00:00.000Z", movedFrom: null },
      { at: "2026-12-11T17:00:00.000Z", movedFrom: null },
      { at: "2026-12-24T17:00:00.000Z", movedFrom: { day: "2026-12-25", name: "Christmas Day" } },
      { at: "2027-01-01T17:00:00.000Z", movedFrom: null },
    ];
    const screen = await render(NextTimes, { times });
    await expect.element(screen.getByText("December 2026", { exact: true })).toBeVisible();
    await expect.element(screen.getByText("January 2027", { exact: true })).toBeVisible();
    expect([...document.querySelectorAll("td.runs")].map((cell) => cell.textContent)).toEqual(["4", "11", "24", "1"]);
    expect(document.querySelectorAll("ol li")).toHaveLength(4);
    // What is off is marked, and named where the time went elsewhere.
    expect([...document.querySelectorAll("td.left")].map((cell) => cell.getAttribute("title"))).toEqual([
      "Off: Christmas Day",
    ]);
    await expect.element(screen.getByText("in place of 25 December 2026, Christmas Day")).toBeVisible();
  });
});
