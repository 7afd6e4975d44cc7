import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { z } from "zod";
import { makeContract } from "../../scripts/contract.mjs";
import { type Endpoint, endpoints, openApiDocument } from "../dist/contract/index.js";

const all = Object.entries(endpoints as Record<string, Endpoint>);
const json = all.flatMap(([id, one]) => (typeof one.answer === "string" ? [] : [{ id, one, answer: one.answer }]));
const fields = (schema: unknown): string[] => (schema instanceof z.ZodObject ? Object.keys(schema.shape) : []);

describe("the contract", () => {
  it("is what the client's types were made from", async () => {
    const kept = readFileSync(new URL("../src/client/paths.ts", import.meta.url), "utf8");
    expect(await makeContract()).toBe(kept);
  });

  it("has each address once, with a summary, and every part of an address described as a parameter", () => {
    const places = all.map(([, one]) => `${one.method} ${one.path}`);
    expect(new Set(places).size).toBe(places.length);
    for (const [id, one] of all) {
      expect(one.summary, id).toMatch(/^[A-Z].*[^.]$/s);
      const named = [...one.path.matchAll(/\{(\w+)\}/g)].map((match) => match[1]);
      expect(fields(one.params).sort(), id).toEqual(named.sort());
    }
  });

  it("takes and answers nothing that it does not name: every object is closed", () => {
    const document = JSON.stringify(openApiDocument(endpoints));
    const open: string[] = [];
    const walk = (value: unknown, path: string): void => {
      if (value === null || typeof value !== "object") return;
      const own = value as Record<string, unknown>;
      if (own.type === "object" && own.properties && own.additionalProperties !== false) open.push(path);
      for (const [key, inner] of Object.entries(own)) walk(inner, `${path}/${key}`);
    };
    walk(JSON.parse(document), "");
    expect(open).toEqual([]);
  });

  it("answers every list in pages, with the same words for paging", () => {
    for (const { id, one, answer } of json.filter(({ one: { method } }) => method === "get")) {
      const names = fields(answer);
      const isList = names.includes("items") || names.includes("rowNumbers");
      if (isList)
        expect([...fields(one.query), ...names], id).toEqual(expect.arrayContaining(["limit", "cursor", "next"]));
      // Whatever is no page holds no list that grows with the data.
      else expect(fields(one.query), id).not.toContain("limit");
    }
    expect(json.filter(({ answer }) => fields(answer).includes("items")).length).toBeGreaterThan(15);
  });

  it("says of everything that starts something that it can be done once", () => {
    const once = all.filter(([, one]) => one.isOnce).map(([id]) => id);
    expect(once.sort()).toEqual(
      [
        "addRecipient",
        "copyKept",
        "decideMessage",
        "loadFile",
        "loadUpload",
        "releaseRun",
        "sendAgain",
        "startRun",
      ].sort(),
    );
  });

  it("refuses other spellings of truth values, days and numbers in addresses", () => {
    const query = endpoints.listRuns.query;
    expect(query.parse({ rehearsal: "true" }).rehearsal).toBe(true);
    for (const text of ["yes", "1", "TRUE", "on", ""]) expect(query.safeParse({ rehearsal: text }).success).toBe(false);
    expect(query.safeParse({ limit: "0" }).success).toBe(false);
    expect(query.safeParse({ limit: "1001" }).success).toBe(false);
    expect(query.safeParse({ colour: "red" }).success).toBe(false);
    expect(endpoints.listOutbox.query.safeParse({ from: "2.11.2026" }).success).toBe(false);
    expect(endpoints.listOutbox.query.safeParse({ from: "2026-11-31" }).success).toBe(false);
  });
});
