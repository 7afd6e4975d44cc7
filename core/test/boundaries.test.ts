import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { describe, expect, it } from "vitest";

const root = fileURLToPath(new URL("../..", import.meta.url));

function sources(folder: string): string[] {
  return readdirSync(join(root, folder), { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return entry.name === "dist" || entry.name === "node_modules" ? [] : sources(path);
    return /\.(ts|svelte)$/.test(entry.name) && !entry.name.endsWith(".d.ts") ? [path] : [];
  });
}

const text = (file: string) => readFileSync(join(root, file), "utf8");

describe("the boundaries of the houses", () => {
  it("keeps the clock, chance and the machine out of the core", () => {
    const files = sources("core/src");
    expect(files.length).toBeGreaterThan(60);
    const forbidden =
      /Date\.now\(|new Date\(\)|Math\.random\(|performance\.|from "node:(?!zlib|crypto|buffer|module")|process\.env|console\./;
    expect(files.filter((file) => forbidden.test(text(file)))).toEqual([]);
  });

  it("lets the core know nothing of the shell and the shell nothing of the faces", () => {
    const imports = (folder: string, part = /from "(@corbix\/\w+)/g) =>
      new Set(sources(folder).flatMap((file) => [...text(file).matchAll(part)].map((match) => match[1])));
    expect(imports("core/src")).toEqual(new Set());
    expect(imports("api/src/contract")).toEqual(new Set(["@corbix/core"]));
    expect(imports("api/src/client")).toEqual(new Set());
    expect(imports("service/src")).toEqual(new Set(["@corbix/api", "@corbix/core", "@corbix/fonts"]));
    expect(imports("cli/src")).toEqual(new Set(["@corbix/api", "@corbix/core", "@corbix/fonts"]));
    expect(imports("console/src", /from "(@corbix\/[\w/]+)/g)).toEqual(
      new Set(["@corbix/api/client", "@corbix/api/rights"]),
    );
  });

  it("leaves the database to the records", () => {
    const files = sources("service/src").filter((file) => !file.startsWith("service/src/records/"));
    expect(files.filter((file) => /from "(sequelize|pg)"/.test(text(file)))).toEqual([]);
    const asks =
      /database\s*\.(?:select|execute|prepared|models|sequelize)\b|\b(?:SELECT|INSERT INTO|UPDATE|DELETE FROM) [a-z_*(]/;
    expect(files.filter((file) => asks.test(text(file).replaceAll(/\/\*[\s\S]*?\*\/|\/\/.*/g, "")))).toEqual([]);
  });

  it("goes from one area of the core to another through its index only", () => {
    const wrong = sources("core/src").flatMap((file) => {
      const area = file.split("/")[2];
      return [...text(file).matchAll(/from "(\.\.\/[^"]+)"/g)]
        .map((match) => `${file}: ${match[1]}`)
        .filter((line) => {
          const target = new URL(line.split(": ")[1], `file:///${file}`).pathname.slice(1);
          return target.split("/")[2] !== area && !target.endsWith("/index.js");
        });
    });
    expect(wrong).toEqual([]);
  });
});
