/** PostgreSQL's own programs that read a whole database out and in again. */
import { execFile, spawn } from "node:child_process";
import { existsSync, readdirSync } from "node:fs";
import { join } from "node:path";
import { promisify } from "node:util";
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";

const DEBIAN = "/usr/lib/postgresql";
const asked = promisify(execFile);

/** Number before the point of a version of the server: 15 of `15.8 (Debian 15.8-1)`. */
export function majorOf(version: string): number {
  return Number(/\d+/.exec(version)?.[0]);
}

/** Path of a program that can read a server of that version: of the same or a newer one. Throws `BAD_SETTING` where there is none. */
export async function databaseProgram(name: "pg_dump" | "pg_restore", server: string): Promise<string> {
  const folders = existsSync(DEBIAN)
    ? readdirSync(DEBIAN)
        .filter((one) => majorOf(one) >= majorOf(server))
        .sort((a, b) => majorOf(a) - majorOf(b))
        .map((one) => join(DEBIAN, one, "bin", name))
    : [];
  const found = folders.find((path) => existsSync(path));
  if (found) return found;
  const { stdout } = await asked(name, ["--version"]).catch(() => ({ stdout: "" }));
  if (stdout && majorOf(stdout) >= majorOf(server)) return name;
  throw new CorbixError("BAD_SETTING", say().serviceOperate.programMissing({ name, major: majorOf(server) }), {
    where: name,
    advice: say().serviceOperate.installClient({ major: majorOf(server) }),
  });
}

/** Runs such a program on a database; the password goes by its environment, where no list of processes shows it. Throws with its words. */
export async function runOn(
  url: string,
  program: string,
  args: readonly string[],
  failure: (words: string) => CorbixError,
): Promise<void> {
  const address = new URL(url);
  const password = decodeURIComponent(address.password);
  address.password = "";
  const child = spawn(program, [...args, `--dbname=${address.href}`], {
    env: { ...process.env, ...(password ? { PGPASSWORD: password } : {}) },
    stdio: ["ignore", "ignore", "pipe"],
  });
  let words = "";
  child.stderr.on("data", (chunk) => {
    words = (words + chunk).slice(-4_000);
  });
  const code = await new Promise<number | null>((resolve, reject) => {
    child.on("error", reject);
    child.on("exit", resolve);
  });
  if (code !== 0) throw failure(words.trim() || `exit code ${code}`);
}
