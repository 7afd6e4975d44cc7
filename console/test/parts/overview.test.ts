import { describe, expect, it } from "vitest";
import { render } from "vitest-browser-svelte";
import FirstDay from "../../src/parts/overview/FirstDay.svelte";
import TwoWeeks from "../../src/parts/overview/TwoWeeks.svelte";
import WentWrong from "../../src/parts/overview/WentWrong.svelte";

const overview = (more: object = {}) =>
  ({
    datasets: 0,
    templates: 0,
    reports: 0,
    runs: 0,
    held: 0,
    onTheWay: 0,
    sent: 0,
    troubled: 0,
    letters: 0,
    troubles: [],
    ...more,
  }) as never;

describe("the first day", () => {
  it.each([
    [{}, "1. Load your table", "Load a table", "#/data"],
    [{ datasets: 1 }, "2. Say who gets what", "Make a report", "#/reports/new"],
    [{ datasets: 1, reports: 1 }, "3. See it yourself first", "Rehearse it", "#/reports"],
    [{ datasets: 1, reports: 1, runs: 1 }, "4. Release it", "Look at the runs", "#/runs"],
  ])("leads on from %o", async (there, title, button, address) => {
    const screen = await render(FirstDay, { overview: overview(there) });
    const [next, ...more] = [...screen.container.querySelectorAll("[aria-current=step]")];
    expect([next?.querySelector("strong")?.textContent, more.length]).toEqual([title, 0]);
    const links = screen.getByRole("link", { name: button }).elements() as HTMLAnchorElement[];
    expect(links.map((one) => one.getAttribute("href"))).toEqual([address]);
    expect(screen.getByLabelText("Done").elements()).toHaveLength(Object.keys(there).length);
  });
});

describe("the weeks to come", () => {
  const report = (name: string, ...nextTimes: string[]) =>
    ({ name, title: `The ${name}`, nextTimes: nextTimes.map((at) => ({ at, movedFrom: null })) }) as never;
  // A Sunday: the week is all but over.
  const today = new Date("2026-11-29T12:00:00");

  it("show each day's runs, with those of the next fourteen days whichever day it is", async () => {
    const reports = [
      report("daily", "2026-11-30T07:00:00", "2026-12-01T07:00:00"),
      report("other", "2026-12-01T09:00:00", "2026-12-13T08:00:00", "2026-12-20T08:00:00"),
    ];
    const screen = await render(TwoWeeks, { reports, today });
    const days = [...screen.container.querySelectorAll("td")];
    const marked = days
      .filter((day) => day.querySelector(".runs"))
      .map((day) => day.textContent?.replace(/\s+/g, " ").trim());
    expect([days.length, marked]).toEqual([21, ["30 1", "1 2", "13 1"]]);
    expect(screen.container.querySelector(".today")?.textContent).toContain("29");
    const listed = screen
      .getByRole("listitem")
      .elements()
      .map((one) => one.textContent);
    expect(listed).toHaveLength(4);
    expect(listed[0]).toMatch(/^Mon 30, 07:00 The daily$/);
  });

  it("say when nothing comes, and what comes later", async () => {
    const screen = await render(TwoWeeks, { reports: [report("rare", "2027-01-04T08:00:00")], today });
    await expect.element(screen.getByText(/Nothing by itself in these weeks; next is/)).toBeVisible();
    await screen.rerender({ reports: [report("by hand")], today });
    await expect.element(screen.getByText(/Nothing runs by itself\./)).toBeVisible();
  });
});

describe("what went wrong", () => {
  it("is told with what to do, and not at all while nothing did", async () => {
    const screen = await render(WentWrong, { troubles: [], failed: [], arrivals: [] });
    expect(screen.container.querySelector("section")).toBeNull();
    const trouble = {
      run: "7f3a",
      report: "x",
      title: "Fees",
      periodLabel: "October 2026",
      state: "unsure",
      count: 5,
      groups: ["Dock", "Quay", "Mole"],
      response: null,
    };
    const failed = [
      {
        id: "1b2c",
        title: "Fees",
        periodLabel: "May",
        createdAt: "2026-11-02T08:00:00Z",
        finishedAt: null,
        error: { message: "No room is left.", advice: "Make room." },
      },
    ];
    const arrivals = [
      {
        id: "3",
        at: "2026-11-02T08:00:00Z",
        way: "folder",
        sender: "",
        file: "odd.xlsx",
        message: "Cannot read the file.",
      },
    ];
    await screen.rerender({ troubles: [trouble], failed, arrivals } as never);
    const told = screen
      .getByRole("listitem")
      .elements()
      .map((one) => one.textContent?.replace(/\s+/g, " "));
    expect(told[0]).toContain(
      "5 messages may or may not have arrived (Dock, Quay, Mole and 2 more). Ask whether it did, then say so in the outbox.",
    );
    expect(told[1]).toContain("failed 2 Nov 2026");
    expect(told[1]).toContain("No room is left. Make room.");
    expect(told[2]).toContain("odd.xlsx, from the watched folder, was not loaded");
  });
});
