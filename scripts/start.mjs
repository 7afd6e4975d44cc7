/** `npm start`: installs, builds, starts database, service, workers and letterbox; Ctrl-C ends all of it. */
import { fork } from "node:child_process";
import { once } from "node:events";
import { fileURLToPath } from "node:url";
import { build } from "./lib/build.mjs";
import { checkNode, installPackages } from "./lib/packages.mjs";
import { superviseCluster } from "./lib/postgres.mjs";
import { claimFolder } from "./lib/running.mjs";
import { Advice, say } from "./lib/say.mjs";

const root = fileURLToPath(new URL("..", import.meta.url)).replace(/\/$/, "");

/** Signals that came in; the first ends everything in order. */
let stopped = false;
let child;
for (const signal of ["SIGINT", "SIGTERM"]) {
  process.on(signal, () => {
    stopped = true;
    child?.kill("SIGTERM");
  });
}

try {
  process.exitCode = await start();
} catch (error) {
  if (error instanceof Advice || error?.name === "CorbixError") {
    process.stderr.write(`${error.where ? `${error.where}: ` : ""}${error.message} ${error.advice ?? ""}\n`);
    process.exitCode = error.exitCode ?? 1;
  } else throw error;
}

async function start() {
  checkNode();
  await installPackages(root);
  await build(root);
  const { readSettings } = await import(new URL("../service/dist/process/settings.js", import.meta.url).href);
  const settings = readSettings(process.env, root);
  const leave = claimFolder(settings.data);
  let cluster;
  try {
    let givenUp;
    if (!settings.databaseUrl)
      cluster = await superviseCluster({ data: settings.data, port: settings.databasePort }, (advice) => {
        givenUp = advice;
        child?.kill("SIGTERM");
      });
    if (stopped) return 0;
    // In a process group of its own: Ctrl-C is passed on by this process, once.
    child = fork(new URL("../service/dist/process/main.js", import.meta.url), [], {
      cwd: root,
      detached: true,
      env: { ...process.env, CORBIX_ROOT: root, CORBIX_DATABASE_URL: settings.databaseUrl ?? cluster.url },
    });
    const [code] = await once(child, "exit");
    if (givenUp) throw Object.assign(givenUp, { exitCode: 9 });
    if (stopped) say("Everything has ended.");
    return stopped ? 0 : (code ?? 1);
  } finally {
    await cluster?.stop();
    leave();
  }
}
