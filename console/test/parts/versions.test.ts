import { describe, expect, it } from "vitest";
import { render } from "vitest-browser-svelte";
import Versions from "../../src/parts/build/Versions.svelte";
import { answering, draftOf } from "./support.js";

const BASE = "report: x\ntitle: X\ndata: visits\nsplit: Site\n";

describe("the versions of a report", () => {
  it("are asked for once, and again when one is saved", async () => {
    const items = [{ number: 1, note: "first", createdBy: "office", createdAt: "2026-11-02T07:30:00Z" }];
    const { asked } = answering({ "/reports/x/versions": { items, next: null } });
    const draft = await draftOf(BASE);
    const screen = await render(Versions, { draft, name: "x", newest: 1 });
    await expect.element(screen.getByText("first")).toBeVisible();
    const count = (): number => asked.filter(({ path }) => path === "/reports/x/versions").length;
    // Long enough for questions that lead to each other.
    await new Promise((resolve) => setTimeout(resolve, 500));
    expect(count()).toBe(1);
    await screen.rerender({ draft, name: "x", newest: 2 });
    await expect.poll(count).toBe(2);
  });
});
