import { parseXml } from "@corbix/core/ooxml";
import { describe, expect, it } from "vitest";
import { colourProfile, metadataOf } from "../../src/pdf/archive.js";

describe("metadata of a file", () => {
  const read = (properties: { title: string; author?: string }, kind: "archive" | "accessible") =>
    parseXml(
      Buffer.from(metadataOf(properties, kind), "latin1")
        .toString("utf8")
        .replace(/^<\?xpacket[^>]*>/, ""),
      "x",
    ).root;

  it("says title and author in any letters", () => {
    const root = read({ title: "Prüfbericht <Käfertal> & Söhne", author: "Zoë O'Brien" }, "archive");
    expect(root.descendants("title")[0].text).toBe("Prüfbericht <Käfertal> & Söhne");
    expect(root.descendants("creator")[0].text).toBe("Zoë O'Brien");
    expect(read({ title: "x" }, "archive").descendants("creator")).toHaveLength(0);
  });

  it("claims what the file is, and nothing else", () => {
    const archive = read({ title: "x" }, "archive");
    expect([archive.descendants("part")[0].text, archive.descendants("conformance")[0].text]).toEqual(["2", "B"]);
    const accessible = read({ title: "x" }, "accessible");
    expect(accessible.descendants("part")[0].text).toBe("1");
    expect(accessible.descendants("conformance")).toHaveLength(0);
  });
});

describe("the profile of the colours", () => {
  const profile = Buffer.from(colourProfile());
  const tags = Array.from({ length: profile.readUInt32BE(128) }, (_, index) => {
    const at = 132 + index * 12;
    return {
      name: profile.toString("latin1", at, at + 4),
      from: profile.readUInt32BE(at + 4),
      size: profile.readUInt32BE(at + 8),
    };
  });
  const tag = (name: string) => tags.find((one) => one.name === name) as (typeof tags)[number];

  it("has the length it says, and tags that lie behind each other on whole words", () => {
    expect(profile.readUInt32BE(0)).toBe(profile.length);
    let end = 132 + tags.length * 12;
    for (const { from, size } of tags) {
      expect(from).toBe(end);
      expect(from % 4).toBe(0);
      end = from + size;
    }
    expect(end).toBe(profile.length);
  });

  it("has white where all three colours are full", () => {
    const xyz = (name: string) => [0, 1, 2].map((part) => profile.readInt32BE(tag(name).from + 8 + part * 4) / 65_536);
    const sum = ["rXYZ", "gXYZ", "bXYZ"].map(xyz).reduce((a, b) => a.map((value, at) => value + b[at]));
    for (const [at, value] of xyz("wtpt").entries()) expect(sum[at]).toBeCloseTo(value, 3);
  });

  it("has the standard's curve: middle grey is a fifth of the light", () => {
    const { from } = tag("rTRC");
    expect(profile.readUInt32BE(from + 8)).toBe(1024);
    const at = (share: number) => profile.readUInt16BE(from + 12 + Math.round(share * 1023) * 2) / 65_535;
    expect([at(0), at(1)]).toEqual([0, 1]);
    expect(at(0.5)).toBeCloseTo(0.2144, 2);
  });
});
