import { readFileSync } from "node:fs";
import { ERRORS } from "@corbix/core/common";
import { reportSchema } from "@corbix/core/report";
import { describe, expect, it } from "vitest";
import { environmentName, readSettings, settingsSchema } from "../dist/settings.js";

const docs = (name: string): string => readFileSync(new URL(`../../docs/${name}`, import.meta.url), "utf8");

describe("the papers and the program say the same", () => {
  it("about settings", () => {
    const rows = [...docs("operating.md").matchAll(/^\| `(\w+)` \| `(CORBIX_\w+)` \|\s*(.*?)\s*\| (.*) \|$/gm)];
    expect(rows.map((row) => row[1])).toEqual(Object.keys(settingsSchema.shape));
    for (const [, key, environment, shown] of rows) {
      expect(environment).toBe(environmentName(key));
      const fixed = /^`(.*)`$/.exec(shown)?.[1];
      if (fixed !== undefined && key !== "data")
        expect(String(readSettings({}, "/nowhere")[key as keyof ReturnType<typeof readSettings>])).toBe(fixed);
    }
  });

  it("about errors", () => {
    const rows = [...docs("operating.md").matchAll(/^\| `([A-Z_]+)` \| (\d+) \| (\d+) \|$/gm)];
    expect(Object.fromEntries(rows.map(([, code, status, exit]) => [code, [Number(status), Number(exit)]]))).toEqual(
      Object.fromEntries(Object.entries(ERRORS).map(([code, { status, exit }]) => [code, [status, exit]])),
    );
  });

  it("about the definition", () => {
    const rows = [...docs("definition.md").matchAll(/^\| `(\w+)` \|/gm)].map((row) => row[1]);
    expect(rows).toEqual(Object.keys(reportSchema.unwrap().shape));
  });
});
