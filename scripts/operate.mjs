/**
 * `node scripts/operate.mjs backup|check|restore|upgrade JSON`: what an operator does on the machine itself. The private database is
 * used where it runs, and started for as long as it takes where it does not.
 */
import { spawn } from "node:child_process";
import { once } from "node:events";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { clusterAddress, startCluster } from "./lib/postgres.mjs";
import { claimFolder, runningAs } from "./lib/running.mjs";
import { Advice } from "./lib/say.mjs";

const root = fileURLToPath(new URL("..", import.meta.url)).replace(/\/$/, "");
const [what, asked = "{}"] = process.argv.slice(2);

try {
  process.exitCode = await operate();
} catch (error) {
  if (!(error instanceof Advice) && error?.name !== "CorbixError") throw error;
  const { code = "CONFLICT", message, where, advice } = error;
  process.stdout.write(`${JSON.stringify({ error: { code, message, where, advice } })}\n`);
  process.exitCode = error.exitCode ?? 7;
}

async function operate() {
  const { readSettings } = await import(new URL("../service/dist/process/settings.js", import.meta.url).href);
  const settings = readSettings(process.env, root);
  const { version } = JSON.parse(readFileSync(join(root, "package.json"), "utf8"));
  const run = async (url) => {
    const child = spawn(
      process.execPath,
      [join(root, "service/dist/operate/main.js"), what, JSON.stringify({ ...JSON.parse(asked), version })],
      { stdio: ["ignore", "inherit", "inherit"], env: { ...process.env, CORBIX_ROOT: root, CORBIX_OPERATE_ON: url } },
    );
    const [code] = await once(child, "exit");
    return code ?? 1;
  };
  if (what === "check" || what === "settings") return run("");
  if (settings.databaseUrl) return run(settings.databaseUrl);
  const isRunning = runningAs(settings.data) !== undefined;
  if (isRunning && what !== "backup" && what !== "doctor")
    throw new Advice(`Corbix runs on ${settings.data}. End it first: npm start's Ctrl-C, or systemctl stop corbix.`);
  if (isRunning) return run(clusterAddress(settings.data));
  const leave = claimFolder(settings.data);
  let cluster;
  try {
    cluster = await startCluster({ data: settings.data, port: settings.databasePort, isQuiet: true });
    return await run(cluster.url);
  } finally {
    await cluster?.stop();
    leave();
  }
}
