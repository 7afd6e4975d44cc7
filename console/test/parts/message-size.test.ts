import { describe, expect, it } from "vitest";
import { render } from "vitest-browser-svelte";
import MessageSize from "../../src/parts/build/MessageSize.svelte";
import { answering } from "./support.js";

describe("the size of a message", () => {
  it("is that of its words, and of its files once they are made for that", async () => {
    const files = [
      { kind: "xlsx", size: 60_000, attachedSize: 82_000 },
      { kind: "pdf", size: 30_000, attachedSize: 41_000, pages: 1 },
    ];
    const { asked } = answering({ "/drafts/try": { files } });
    const props = { definition: "report: x\n", group: "dock", rows: {}, attach: ["list", "list.pdf"], words: 3_000 };
    const screen = await render(MessageSize, props);
    await expect.element(screen.getByText("About 3 kB of words.")).toBeVisible();
    await screen.getByRole("button", { name: "Weigh it with its files" }).click();
    await expect
      .element(screen.getByText(/^About 123 kB as it goes out, with list 80 kB, list.pdf 40 kB\.$/))
      .toBeVisible();
    expect(asked.filter(({ path }) => path === "/drafts/try")).toHaveLength(2);
  });
});
