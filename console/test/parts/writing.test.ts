import { beforeEach, describe, expect, it, vi } from "vitest";
import { userEvent } from "vitest/browser";
import { render } from "vitest-browser-svelte";
import { insertable } from "../../src/lib/message.js";
import { markdownWriting } from "../../src/lib/rich-text/editor.js";
import ChipLine from "../../src/parts/write/ChipLine.svelte";
import FormulaField from "../../src/parts/write/FormulaField.svelte";
import RichText from "../../src/parts/write/RichText.svelte";
import { answering, COLUMNS } from "./support.js";

const insertions = insertable([...COLUMNS]);
beforeEach(() => {
  answering();
});

/** A box lies under its label, where nothing can be clicked. */
const click = (box: { element: () => Element }): void => (box.element() as HTMLElement).click();

describe("a line with chips", () => {
  it("shows marks as what they stand for, takes more where the cursor is, and gives back the text", async () => {
    const onchange = vi.fn<(text: string) => void>();
    const screen = await render(ChipLine, { value: "For {{ group.key }}: ", label: "Subject", insertions, onchange });
    const line = screen.getByRole("textbox", { name: "Subject" });
    await expect.element(line).toHaveTextContent("For Name of the group:");
    await line.click();
    await userEvent.keyboard("{End}on {{{{ fee }}");
    expect(onchange).toHaveBeenLastCalledWith("For {{ group.key }}: on {{ fee }}");
    await expect.element(line).toHaveTextContent("For Name of the group: on Fee");
    await screen.getByLabelText("Put into subject").selectOptions("Count of the rows");
    expect(onchange).toHaveBeenLastCalledWith("For {{ group.key }}: on {{ fee }}{{ count(line) }}");
    await userEvent.keyboard("{Backspace}{Enter}");
    expect(onchange).toHaveBeenLastCalledWith("For {{ group.key }}: on {{ fee }}");
  });

  it("keeps the cursor where somebody writes, while what can be put in is read anew", async () => {
    const onchange = vi.fn<(text: string) => void>();
    const given = { value: "", label: "Subject", insertions, onchange };
    const screen = await render(ChipLine, given);
    await screen.getByRole("textbox", { name: "Subject" }).click();
    for (const part of ["D", "o", "o", "r", "s", " {{{{ site }}", " ", "x"]) {
      await userEvent.keyboard(part);
      const value = String(onchange.mock.lastCall?.[0]);
      await screen.rerender({ ...given, value, insertions: insertions.map((one) => ({ ...one })) });
    }
    expect(onchange).toHaveBeenLastCalledWith("Doors {{ site }} x");
    // Names that come to be known are drawn, and the cursor stays all the same.
    await screen.rerender({
      ...given,
      value: "Doors {{ site }} x",
      insertions: insertions.map((one) => (one.mark === "{{ site }}" ? { ...one, name: "Building" } : one)),
    });
    await expect.element(screen.getByRole("textbox", { name: "Subject" })).toHaveTextContent("Doors Building x");
    await userEvent.keyboard("y");
    expect(onchange).toHaveBeenLastCalledWith("Doors {{ site }} xy");
  });

  it("shows what was changed elsewhere", async () => {
    const onchange = vi.fn<(text: string) => void>();
    const screen = await render(ChipLine, { value: "one", label: "Subject", insertions, onchange });
    await screen.rerender({ value: "two {{ site }}", label: "Subject", insertions, onchange });
    await expect.element(screen.getByRole("textbox", { name: "Subject" })).toHaveTextContent("two Site");
    expect(onchange).not.toHaveBeenCalled();
  });
});

describe("formatted words", () => {
  const props = (value: string) => ({
    value,
    writing: markdownWriting,
    label: "Words",
    insertions,
    columns: [...COLUMNS],
    pictures: ["logo.png"],
    onchange: vi.fn<(text: string) => void>(),
  });

  it("are formatted by buttons and keys, and read as they were written", async () => {
    const given = props("Dear **{{ recipient.name }}**,\n\nhello\n");
    const screen = await render(RichText, given);
    const words = screen.getByRole("textbox", { name: "Words" });
    await words.getByText("hello").click();
    await userEvent.keyboard("{End}");
    await screen.getByRole("button", { name: "List", exact: true }).click();
    expect(given.onchange).toHaveBeenLastCalledWith("Dear **{{ recipient.name }}**,\n\n- hello\n");
    await expect
      .element(screen.getByRole("button", { name: "List", exact: true }))
      .toHaveAttribute("aria-pressed", "true");
    await userEvent.keyboard("{Enter}second{Enter}{Enter}after");
    expect(given.onchange).toHaveBeenLastCalledWith("Dear **{{ recipient.name }}**,\n\n- hello\n- second\n\nafter\n");
    await screen.getByRole("button", { name: "Heading" }).click();
    expect(given.onchange).toHaveBeenLastCalledWith(
      "Dear **{{ recipient.name }}**,\n\n- hello\n- second\n\n## after\n",
    );
    await userEvent.keyboard("{Control>}z{/Control}");
    expect(given.onchange.mock.lastCall?.[0]).not.toContain("##");
  });

  it("hold a table of the rows that is set up by ticks", async () => {
    const given = props("Hello\n");
    const screen = await render(RichText, given);
    await screen.getByRole("textbox", { name: "Words" }).click();
    await userEvent.keyboard("{End}");
    await screen.getByRole("button", { name: "Table of the rows" }).click();
    await screen.getByRole("button", { name: "Set up" }).click();
    await screen.getByLabelText("Format of Fee").selectOptions("1,234.50");
    click(screen.getByRole("checkbox", { name: "Sum of Fee" }));
    click(screen.getByRole("checkbox", { name: "Site", exact: true }));
    expect(given.onchange).toHaveBeenLastCalledWith(
      'Hello\n\n{{table line: visit_date headed "Visit date" as "dd/mm/yyyy", fee headed "Fee" as "#,##0.00" total}}\n',
    );
    (screen.getByRole("button", { name: "Drag Fee" }).element() as HTMLElement).focus();
    await userEvent.keyboard("{ArrowUp}");
    expect(given.onchange.mock.lastCall?.[0]).toContain("{{table line: fee headed");
  });

  it("hold links and pictures", async () => {
    const given = props("Hello\n");
    const screen = await render(RichText, given);
    await screen.getByRole("textbox", { name: "Words" }).click();
    await userEvent.keyboard("{Control>}a{/Control}");
    await screen.getByRole("button", { name: "Link", exact: true }).click();
    await screen.getByLabelText("Address of the link").fill("lifts.example/help");
    await screen.getByRole("button", { name: "Set the link" }).click();
    expect(given.onchange).toHaveBeenLastCalledWith("[Hello](https://lifts.example/help)\n");
    await userEvent.keyboard("{End}");
    await screen.getByLabelText("Picture in words").selectOptions("logo.png");
    expect(given.onchange).toHaveBeenLastCalledWith("[Hello](https://lifts.example/help)![logo](logo.png)\n");
  });
});

describe("a formula", () => {
  it("completes names, stays on its line, and shows what is wrong at its word", async () => {
    const onchange = vi.fn<(text: string) => void>();
    const props = { value: "", label: "Formula", names: ["Hours", "Hourly rate"], over: "value" as const, onchange };
    const screen = await render(FormulaField, { ...props, trouble: undefined });
    await screen.getByRole("textbox", { name: "Formula" }).click();
    await userEvent.keyboard("2 * hourl");
    await expect.element(screen.getByRole("option", { name: /Hourly rate/ })).toBeVisible();
    await vi.waitFor(async () => {
      await userEvent.keyboard("{Enter}");
      expect(onchange).toHaveBeenLastCalledWith("2 * hourly_rate");
    });
    await userEvent.keyboard("{Enter} + ratte");
    expect(onchange).toHaveBeenLastCalledWith("2 * hourly_rate + ratte");
    const value = "2 * hourly_rate + ratte";
    await screen.rerender({ ...props, value, trouble: { words: "no such column", character: 19 } });
    await vi.waitFor(() => expect(document.querySelector(".cm-lintRange-error")?.textContent).toBe("ratte"));
  });
});
