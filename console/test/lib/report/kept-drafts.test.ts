import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { keepDraft, keptDraft, unsavedDrafts } from "../../../src/lib/report/kept-drafts.js";

/** A store as browsers have it. */
function store(): Storage {
  const kept: Record<string, string> = Object.create({
    getItem: (key: string) => kept[key] ?? null,
    setItem: (key: string, value: string) => {
      kept[key] = value;
    },
    removeItem: (key: string) => {
      delete kept[key];
    },
  });
  return kept as unknown as Storage;
}

describe("reports that are not saved yet", () => {
  beforeEach(() => {
    globalThis.localStorage = store();
  });
  afterEach(() => {
    Reflect.deleteProperty(globalThis, "localStorage");
  });

  it("are kept with the version they were begun from, until they are saved", () => {
    keepDraft("sites", { text: "report: sites\n", version: 3 });
    keepDraft("invoices", { text: "report: invoices\n", version: 0 });
    expect(keptDraft("sites")).toEqual({ text: "report: sites\n", version: 3 });
    expect(unsavedDrafts()).toEqual(["invoices", "sites"]);
    keepDraft("sites", undefined);
    expect(keptDraft("sites")).toBeUndefined();
    expect(unsavedDrafts()).toEqual(["invoices"]);
  });

  it.each(["report: sites", "null", "3", '{"text":3,"version":1}'])("do not trip over %s in the store", (stored) => {
    localStorage.setItem("corbix-report-sites", stored);
    localStorage.setItem("other", "x");
    expect(keptDraft("sites")).toBeUndefined();
    expect(unsavedDrafts()).toEqual([]);
  });
});
