import { describe, expect, it } from "vitest";
import { render } from "vitest-browser-svelte";
import HandOut from "../../src/parts/run/HandOut.svelte";
import { answering } from "./support.js";

/** A box lies under its label, where nothing can be clicked. */
const click = (box: { element: () => Element }): void => (box.element() as HTMLElement).click();

describe("a run's files handed out", () => {
  const shown = () => render(HandOut, { isOpen: true, run: "7f3a", period: "2026-10" });

  it("go into a folder, and what was there already is told", async () => {
    const { asked } = answering({ "/runs/7f3a/folder": { folder: "out/october", written: 3, same: 1 } });
    const screen = await shown();
    await screen.getByLabelText("Folder", { exact: true }).fill("october");
    click(screen.getByLabelText("A folder for each group"));
    await screen.getByRole("button", { name: "Hand out" }).click();
    await expect
      .element(screen.getByRole("status"))
      .toHaveTextContent("3 files written to out/october; 1 file was there already.");
    expect(asked.at(-1)).toEqual({ path: "/runs/7f3a/folder", body: { folder: "october", perGroup: true } });
  });

  it("go to a server, with a name and a password where they are given", async () => {
    const { asked } = answering({ "/runs/7f3a/web-folder": { put: 26 } });
    const screen = await shown();
    click(screen.getByLabelText("a folder on a server (WebDAV)"));
    const button = screen.getByRole("button", { name: "Hand out" });
    await expect.element(button).toBeDisabled();
    await screen.getByLabelText("Address of the folder").fill("https://files.lifts.example/");
    await screen.getByLabelText("Name", { exact: true }).fill("office");
    await button.click();
    await expect.element(screen.getByRole("status")).toHaveTextContent("26 files put there.");
    expect(asked.at(-1)?.body).toEqual({ url: "https://files.lifts.example/", user: "office" });
  });
});
