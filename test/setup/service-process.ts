/** The service as it is started for good: a process of its own with its workers, of which all that is written is heard. */
import { type ChildProcess, fork } from "node:child_process";
import { randomBytes } from "node:crypto";
import { once } from "node:events";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { makeDatabase } from "../../scripts/lib/postgres.mjs";
import { freePort } from "./ways-servers.js";

const root = fileURLToPath(new URL("../..", import.meta.url)).replace(/\/$/, "");

export interface ServiceProcess {
  readonly url: string;
  readonly databaseUrl: string;
  readonly child: ChildProcess;
  /** What it and its workers have written so far. */
  readonly written: () => string;
  readonly signIn: { readonly name: string; readonly password: string; readonly token: string };
  readonly close: () => Promise<void>;
}

/** Starts it in a database of its own; resolves when it says that it runs. */
export async function serviceProcess(
  clusterUrl: string,
  data: string,
  environment: Record<string, string>,
): Promise<ServiceProcess> {
  const name = `test_${randomBytes(5).toString("hex")}`;
  await makeDatabase(clusterUrl, name);
  const databaseUrl = clusterUrl.replace(/\/[^/]+$/, `/${name}`);
  const port = await freePort();
  let written = "";
  const child = fork(join(root, "service/dist/process/main.js"), [], {
    silent: true,
    cwd: root,
    env: {
      ...process.env,
      CORBIX_ROOT: root,
      CORBIX_DATA: data,
      CORBIX_DATABASE_URL: databaseUrl,
      CORBIX_PORT: String(port),
      CORBIX_LETTERBOX_PORT: "0",
      CORBIX_WORKERS: "1",
      CORBIX_ZONE: "Europe/Zurich",
      ...environment,
    },
  });
  await new Promise<void>((resolve, reject) => {
    for (const stream of [child.stdout, child.stderr])
      stream?.on("data", (chunk) => {
        written += chunk;
        if (written.includes("Ctrl-C")) resolve();
      });
    child.on("exit", () => reject(new Error(`the service ended: ${written}`)));
  });
  return {
    url: `http://127.0.0.1:${port}`,
    databaseUrl,
    child,
    written: () => written,
    signIn: JSON.parse(readFileSync(join(data, "sign-in.json"), "utf8")),
    close: async () => {
      if (child.exitCode !== null || child.signalCode !== null) return;
      child.kill("SIGTERM");
      await once(child, "exit");
    },
  };
}
