import { mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { isRoot } from "./run.mjs";
import { Advice } from "./say.mjs";

/** Marks the data folder as in use by this process; a second start on it would end the first one's database. */
export function claimFolder(data) {
  const mark = join(data, "running-as");
  const pid = readPid(mark);
  if (pid !== undefined && pid !== process.pid && isAlive(pid)) {
    throw new Advice(
      `Corbix runs already on ${data}, as process ${pid}. End that one first, or set CORBIX_DATA to another folder.`,
    );
  }
  // Others may pass through to the database's folder, where that is another account's, and look at nothing.
  mkdirSync(data, { recursive: true, mode: isRoot ? 0o711 : 0o700 });
  writeFileSync(mark, `${process.pid}\n`);
  return () => rmSync(mark, { force: true });
}

/** The process that runs on a data folder, if one does. */
export function runningAs(data) {
  const pid = readPid(join(data, "running-as"));
  return pid !== undefined && isAlive(pid) ? pid : undefined;
}

function readPid(mark) {
  try {
    return Number(readFileSync(mark, "utf8")) || undefined;
  } catch {
    return undefined;
  }
}

function isAlive(pid) {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return error.code === "EPERM";
  }
}
