/** Makes docs/screenshots anew from a freshly started demo: `npm start` in one terminal, `node scripts/screenshots.mjs` in another. */
import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { chromium } from "playwright-core";
import { CHROMIUM } from "./lib/chromium.mjs";

const root = fileURLToPath(new URL("..", import.meta.url)).replace(/\/$/, "");
const out = (name) => join(root, "docs/screenshots", `${name}.png`);
const url = process.env.CORBIX_URL ?? "http://127.0.0.1:8320";
const signIn = JSON.parse(readFileSync(join(process.env.CORBIX_DATA ?? join(root, "data"), "sign-in.json"), "utf8"));
const folder = mkdtempSync(join(tmpdir(), "corbix-shots-"));
const corbix = (...args) =>
  execFileSync(process.execPath, [join(root, "cli/bin/corbix.mjs"), ...args], {
    encoding: "utf8",
    cwd: folder,
    env: { ...process.env, CORBIX_URL: url, CORBIX_TOKEN: signIn.token, FORCE_COLOR: "0" },
  });
const size = { width: 1280, height: 800 };
const browser = await chromium.launch(CHROMIUM);

try {
  // What October is set beside.
  const before = corbix("run", "site-statement", "--for", "2026-09");
  corbix("release", /corbix release (\w+)/.exec(before)[1]);
  const held = corbix("run", "site-statement", "--for", "2026-10");
  const run = /corbix release (\w+)/.exec(held)[1];
  await terminal("command-run", "corbix run site-statement --for 2026-10", held);
  const page = await browser.newPage({ viewport: size, colorScheme: "light", locale: "en-GB" });
  await page.goto(url);
  await page.getByLabel("Name").fill(signIn.name);
  await page.getByLabel("Password", { exact: true }).fill(signIn.password);
  await page.keyboard.press("Enter");
  await page.getByRole("heading", { name: "Overview" }).waitFor();
  const shoot = async (name, address, act = async () => {}) => {
    await page.goto(`${url}/#/${address}`);
    await page.waitForTimeout(1500);
    await act();
    await page.waitForTimeout(600);
    await page.screenshot({ path: out(name) });
  };
  await shoot("console-overview", "");
  await shoot("console-data", "data/visits", async () => {
    await page.getByPlaceholder("Search in all columns").fill("harbour house");
    await page.keyboard.press("Enter");
    await page.getByRole("button", { name: "Figures and filter of Hours" }).click();
    await page.getByRole("region").evaluate((element) => element.scrollTo(0, 0));
  });
  await shoot("console-load", "data/visits", async () => {
    await page.getByRole("button", { name: "Load a file" }).click();
    await page.locator("input[type=file]").setInputFiles(join(root, "demo/files/visits-2026.xlsx"));
    await page.getByText("First rows").waitFor();
  });
  await shoot("console-enquiry", "enquiries/visit-enquiry", async () => {
    await page.getByText(/^fail \(/).click();
    await page.getByRole("button", { name: "Ask", exact: true }).click();
    await page
      .getByRole("button", { name: /^Show row/ })
      .first()
      .waitFor();
  });
  await shoot("console-preparation", "reports/site-statement/rows", async () => {
    await page.getByRole("cell").getByRole("button", { name: "New columns", exact: true }).click();
    await page.getByRole("heading", { name: "What each step does" }).scrollIntoViewIfNeeded();
  });
  await shoot("console-run", `runs/${run}`);
  await shoot("console-parcel", `runs/${run}/25`, () => page.mouse.wheel(0, 420));
  // The letterbox does three things wrong, so that the outbox has something to tell.
  for (const rule of [
    { does: "break-after", to: "canalwharf", times: 1 },
    { does: "refuse", to: "bellfield" },
    { does: "bounce", to: "aldercourt" },
  ])
    await fetch(`${url}/api/v1/letterbox/rules`, {
      method: "POST",
      headers: { Authorization: `Bearer ${signIn.token}`, "Content-Type": "application/json" },
      body: JSON.stringify(rule),
    });
  await page.waitForTimeout(500);
  corbix("release", run);
  await shoot("console-letterbox", "letterbox", () =>
    page.getByRole("link", { name: /Sjöstad Quay, October/ }).click(),
  );
  await shoot("console-outbox", "outbox");
  await shoot("console-template", "templates/report.docx", () =>
    page.getByRole("img", { name: /^report.docx for .*, page 1/ }).waitFor(),
  );
  for (const [name, shownName, roles] of [
    ["mara.lindqvist", "Mara Lindqvist", { prepare: "all" }],
    ["jonas.brandt", "Jonas Brandt", { release: ["site-statement", "unit-figures"] }],
    ["ida.holm", "Ida Holm", { ask: "all" }],
  ])
    await fetch(`${url}/api/v1/people`, {
      method: "POST",
      headers: { Authorization: `Bearer ${signIn.token}`, "Content-Type": "application/json" },
      body: JSON.stringify({ name, shownName, roles }),
    });
  await shoot("console-people", "people");
  await shoot("console-report", "reports/site-statement/files", () =>
    page.getByRole("img", { name: /^statement for .*, page 1/ }).waitFor(),
  );
  await shoot("console-recipients", "recipients");
  await shoot("console-message", "reports/unit-figures/message", async () => {
    await page.getByRole("button", { name: "Write a message" }).click();
    await page.getByRole("textbox", { name: "Words" }).getByText("Kind regards").click();
    await page.keyboard.press("Home");
    await page.getByRole("button", { name: "Table of the rows" }).click();
    await page.frameLocator("iframe").getByRole("table").waitFor();
    await page.getByRole("button", { name: "Set up" }).click();
  });
  corbix("audit", run, "--out", join(folder, "audit.pdf"));
  pdfPage("page-audit", "audit.pdf");
  corbix("fetch", run, "--out", "files");
  pdfPage("page-statement", "files/2026-10/Pavilion Shopping – statement – October 2026.pdf");
  corbix("try", "unit-figures", "slides", "--for", "2026-Q3", "--group", "Pavilion Shopping", "--out", "trial");
  pdfPage("page-slides", "trial/slides Pavilion Shopping.pdf", 3);
  corbix("try", "unit-figures", "report", "--for", "2026-Q3", "--group", "Pavilion Shopping", "--out", "report");
  pdfPage("page-report", "report/report Pavilion Shopping.pdf", 3);
} finally {
  await browser.close();
  rmSync(folder, { recursive: true, force: true });
}

/** What a command printed, as a terminal shows it. */
async function terminal(name, command, text) {
  const page = await browser.newPage({ viewport: size, locale: "en-GB" });
  const escape = (part) => part.replaceAll("&", "&amp;").replaceAll("<", "&lt;");
  await page.setContent(
    `<body style="margin:0;background:#16201c;color:#e8e6df;font:13px/1.45 'DejaVu Sans Mono',monospace;padding:18px 22px"><pre style="margin:0;white-space:pre-wrap"><b style="color:#8fbfae">$ ${escape(command)}</b>\n${escape(text)}</pre>`,
  );
  await page.screenshot({ path: out(name) });
  await page.close();
}

function pdfPage(name, file, number = 1) {
  execFileSync("pdftoppm", [
    "-r",
    "80",
    "-png",
    "-f",
    String(number),
    "-l",
    String(number),
    "-singlefile",
    join(folder, file),
    out(name).replace(/\.png$/, ""),
  ]);
}
