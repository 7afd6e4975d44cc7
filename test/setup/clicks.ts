/** A person at the console: what they click and type is counted. */
import type { Locator, Page } from "playwright-core";

export class Person {
  clicks = 0;
  typed = 0;

  constructor(readonly page: Page) {}

  /** Clicks and typed fields together. */
  get deeds(): number {
    return this.clicks + this.typed;
  }

  async click(what: Locator): Promise<void> {
    this.clicks++;
    await what.click();
  }

  /** A choice of a list is one click for opening it and one for choosing. */
  async choose(what: Locator, option: string): Promise<void> {
    this.clicks += 2;
    await what.selectOption(option);
  }

  async tick(what: Locator): Promise<void> {
    this.clicks++;
    // The box itself lies under its label.
    await what.check({ force: true });
  }

  async untick(what: Locator): Promise<void> {
    this.clicks++;
    await what.uncheck({ force: true });
  }

  async type(what: Locator, text: string): Promise<void> {
    this.typed++;
    await what.fill(text);
    await what.blur();
  }

  /** Words with marks among them, typed as they are: a mark that is whole becomes a chip. */
  async write(what: Locator, text: string): Promise<void> {
    this.typed++;
    await what.click();
    await this.page.keyboard.press("Control+a");
    for (const [at, line] of text.split("\n").entries()) {
      if (at > 0) await this.page.keyboard.press("Enter");
      await this.page.keyboard.insertText(line);
    }
    await what.blur();
  }

  /** A file chosen in a dialog is one click, and one for the file. */
  async give(what: Locator, file: string | { name: string; mimeType: string; buffer: Buffer }): Promise<void> {
    this.clicks += 2;
    await what.setInputFiles(file);
  }

  button(name: string | RegExp, within: Pick<Page, "getByRole"> = this.page): Locator {
    return within.getByRole("button", { name, exact: typeof name === "string" });
  }

  link(name: string | RegExp): Locator {
    return this.page.getByRole("link", { name });
  }
}
