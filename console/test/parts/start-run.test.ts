import { beforeEach, describe, expect, it } from "vitest";
import { render } from "vitest-browser-svelte";
import StartRun from "../../src/parts/run/StartRun.svelte";
import { answering } from "./support.js";

const period = (key: string, label: string, state: string, rows: number, isNext = false) => ({
  key,
  label,
  state,
  isNext,
  rows,
  run: state === "delivered" ? { id: "7f3a", state: "done", releasedAt: "2026-10-02T08:00:00Z" } : null,
});
const PERIODS = [
  period("2026-11", "November 2026", "running", 1),
  period("2026-10", "October 2026", "open", 3),
  period("2026-09", "September 2026", "open", 2, true),
  period("2026-08", "August 2026", "delivered", 2),
];
const group = (name: string, says: string, why: string | null = null) => ({
  key: name.toLowerCase(),
  group: name,
  rows: 2,
  people: says === "none" ? [] : ["Ann"],
  says,
  why,
  day: says === "had" ? "2026-09-02" : null,
  run: null,
});
const prospect = (more: object = {}) => ({
  items: [group("Dock", "go"), group("Mole", "none", "no row of the list names it")],
  next: null,
  total: 2,
  period: "2026-10",
  rows: 4,
  leftOut: [{ reason: "outside of October 2026", count: 9 }],
  madeUpFor: [],
  counts: { groups: 2, go: 1, some: 0, had: 0, none: 1 },
  onceSentence: "Each group gets it once for a period.",
  holds: true,
  sends: true,
  ...more,
});
const answers = (periods: object[], runs: object[], more: object = {}) =>
  answering({
    "/reports/x/periods": { items: periods, next: null },
    "/reports/x/prospect": prospect(more),
    "/runs": { items: runs, next: null, total: runs.length, id: "1a2b" },
  });
const shown = (rehearses = false) => render(StartRun, { isOpen: true, report: "x", rehearses, edition: undefined });
/** A box lies under its label, where nothing can be clicked. */
const click = (box: { element: () => Element }): void => (box.element() as HTMLElement).click();

describe("starting a run", () => {
  beforeEach(() => {
    localStorage.clear();
    location.hash = "";
  });

  it("is a rehearsal to oneself for a report that never ran, with the newest period that is over", async () => {
    const { asked } = answers(PERIODS.slice(0, 3), []);
    const screen = await shown();
    await expect.element(screen.getByText("Rehearse this report")).toBeVisible();
    await expect.element(screen.getByLabelText("Period")).toHaveValue("2026-10");
    const start = screen.getByRole("button", { name: "Rehearse", exact: true });
    await expect.element(start).toBeDisabled();
    await screen.getByLabelText("Rehearse to").fill("me@lifts.example");
    await expect.element(screen.getByText("What 1 group would get comes to you alone.")).toBeVisible();
    await start.click();
    await expect
      .poll(() => asked.at(-1)?.body)
      .toEqual({ report: "x", period: "2026-10", rehearsalTo: "me@lifts.example" });
  });

  it("tells which periods come along in files that grow", async () => {
    const names = ["March", "April", "May", "June", "July", "August", "September", "October"];
    answers(PERIODS, [{}], { madeUpFor: names.slice(0, 2) });
    const screen = await shown();
    const note = screen.getByRole("status");
    await expect.element(note).toHaveTextContent("March, April come along: the files that grow do not have them yet.");
    answers(PERIODS, [{}], { madeUpFor: names });
    screen.unmount();
    await expect
      .element((await shown()).getByRole("status"))
      .toHaveTextContent("March, April, May, June, July, August and 2 more come along");
  });

  it("begins with the period that is due once one was delivered, and tells the state of each", async () => {
    answers(PERIODS, [{}]);
    const screen = await shown();
    await expect.element(screen.getByLabelText("Period")).toHaveValue("2026-09");
    const texts = [...screen.getByLabelText("Period").element().querySelectorAll("option")].map((one) => one.text);
    expect(texts).toEqual([
      "November 2026: not over yet, 1 row",
      "October 2026: open, 3 rows",
      "September 2026: open, 2 rows",
      expect.stringMatching(/^August 2026: released 2 Oct 2026, \d\d:00, 2 rows$/),
    ]);
  });

  it("tells before it who gets nothing and why, and who has it", async () => {
    answers(PERIODS, [{}], {
      items: [group("Dock", "go"), group("Quay", "had"), group("Mole", "none", "no row of the list names it")],
      counts: { groups: 3, go: 1, some: 0, had: 1, none: 1 },
    });
    const screen = await shown();
    const note = screen.getByRole("status");
    await expect.element(note).toHaveTextContent("4 rows in 3 groups; 9 rows left out: 9 outside of October 2026.");
    await expect
      .element(note)
      .toHaveTextContent("1 group gets its part once you release it. 1 group has it already and is skipped.");
    await screen.getByText("Which, and why").click();
    const items = screen
      .getByRole("listitem")
      .elements()
      .map((one) => one.textContent);
    expect(items).toEqual(["Quay has had it on 2 September 2026", "Mole nobody: no row of the list names it"]);
    // Sent again on purpose, with a reason.
    click(screen.getByLabelText("Send it again to those who have it"));
    await expect.element(note).toHaveTextContent("2 groups get theirs once you release it.");
    const start = screen.getByRole("button", { name: "Run", exact: true });
    await expect.element(start).toBeDisabled();
    await screen.getByLabelText("Why", { exact: true }).fill("fees were wrong");
    await expect.element(start).toBeEnabled();
  });

  it("is for some groups where they are ticked", async () => {
    const { asked } = answers(PERIODS, [{}]);
    const screen = await shown();
    await expect.element(screen.getByRole("status")).toBeVisible();
    click(screen.getByLabelText("Only some groups"));
    const start = screen.getByRole("button", { name: "Run", exact: true });
    await expect.element(start).toBeDisabled();
    await expect.element(screen.getByLabelText("Mole (2 rows, nobody)")).toBeInTheDocument();
    click(screen.getByLabelText("Dock (2 rows)"));
    await expect.element(screen.getByText("Only Dock.")).toBeVisible();
    await start.click();
    await expect.poll(() => asked.at(-1)?.body).toEqual({ report: "x", period: "2026-09", groups: ["Dock"] });
  });
});
