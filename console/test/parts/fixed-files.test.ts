import { describe, expect, it, vi } from "vitest";
import { userEvent } from "vitest/browser";
import { render } from "vitest-browser-svelte";
import FixedFiles from "../../src/parts/build/FixedFiles.svelte";
import { answering, draftOf } from "./support.js";

const BASE =
  "report: x\ntitle: X\ndata: visits\nsplit: Site\nmessage: { subject: S, body: { text: T }, attach: [list] }\n";

describe("a file that goes to everybody", () => {
  it("is uploaded where the message is written, attached once, and taken out again", async () => {
    const { asked } = answering();
    const draft = await draftOf(BASE);
    const onuploaded = vi.fn(async () => {});
    const screen = await render(FixedFiles, { draft, onuploaded });
    const input = screen.container.querySelector("input[type=file]") as HTMLInputElement;
    const leaflet = () => new File(["%PDF-1.7"], "leaflet.pdf", { type: "application/pdf" });
    await userEvent.upload(input, leaflet());
    await expect.element(screen.getByRole("listitem")).toHaveTextContent("leaflet.pdf");
    expect(draft.get(["message", "attach"])).toEqual(["list", { fixed: "leaflet.pdf" }]);
    expect(asked.map(({ path }) => path)).toContain("/templates/leaflet.pdf");
    // A newer version of it is the same attachment.
    await userEvent.upload(input, leaflet());
    await vi.waitUntil(() => onuploaded.mock.calls.length === 2);
    expect(draft.get(["message", "attach"])).toEqual(["list", { fixed: "leaflet.pdf" }]);
    await screen.getByRole("button", { name: "Do not attach leaflet.pdf" }).click();
    expect(draft.get(["message", "attach"])).toEqual(["list"]);
  });
});
