import { describe, expect, it } from "vitest";
import { render } from "vitest-browser-svelte";
import NextTimes from "../../src/parts/build/NextTimes.svelte";

describe("the next times of a schedule", () => {
  it("stand on a calendar and in words", async () => {
    const times = ["2026-12-04T17:00:00.000Z", "2026-12-11T17:00:00.000Z", "2027-01-01T17:00:00.000Z"];
    const screen = await render(NextTimes, { times });
    await expect.element(screen.getByText("December 2026")).toBeVisible();
    await expect.element(screen.getByText("January 2027")).toBeVisible();
    expect([...document.querySelectorAll("td.runs")].map((cell) => cell.textContent)).toEqual(["4", "11", "1"]);
    expect(document.querySelectorAll("ol li")).toHaveLength(3);
  });
});
