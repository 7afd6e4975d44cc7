/** Addresses of pages of files. */
import { describe, expect, it } from "vitest";
import { downloadLink, openLink } from "../../dist/outbox/links.js";

const sign = (text: string) => `signed-${text}`;
const at = (settings: object) =>
  ({
    settings: { host: "127.0.0.1", port: 8080, ...settings },
    secrets: { sign, signs: (text: string) => [sign(text)] },
    now: () => new Date("2026-11-10T12:00:00Z"),
  }) as unknown as Parameters<typeof openLink>[0];

describe("the address of a message's page", () => {
  it("works to the end of its last day, counted from when the message began, and is the same each time", () => {
    const link = downloadLink(
      at({ publicUrl: "https://r.example" }),
      { id: "11", datedAt: "2026-11-02T23:59:00Z" } as never,
      7,
    );
    expect(link.until).toBe("2026-11-09");
    expect(link.url).toMatch(/^https:\/\/r\.example\/d\/11\.\d+\.signed-11\.\d+$/);
    expect(downloadLink(at({}), { id: "11", datedAt: null }, 7).url).toMatch(/^http:\/\/127\.0\.0\.1:8080\/d\/11\.7\./);
  });

  it.each([
    "",
    "11",
    "11.20000",
    "11.20000.",
    `11.20000.${sign("12.20000")}`,
    `x.20000.${sign("x.20000")}`,
    `11.20000.${sign("11.20000")}x`,
  ])("%j leads nowhere, and nothing is asked of the database", async (token) => {
    await expect(openLink(at({}), token)).rejects.toMatchObject({ code: "NOT_FOUND" });
  });

  it("leads nowhere any more behind its last day", async () => {
    const day = Math.floor(Date.UTC(2026, 10, 9) / 86_400_000);
    await expect(openLink(at({}), `11.${day}.${sign(`11.${day}`)}`)).rejects.toMatchObject({ code: "NOT_FOUND" });
  });
});
