import { chmodSync, mkdtempSync, rmSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { TestProject } from "vitest/node";
import { startCluster } from "../../scripts/lib/postgres.mjs";

declare module "vitest" {
  interface ProvidedContext {
    /** Address of the test cluster's first database. */
    databaseUrl: string;
    /** Services that were started and ended once: their databases and folders are copied, not made again for each test. */
    begun: { readonly bare: Begun; readonly demo: Begun };
  }
}

/** A service as its first start left it. */
export interface Begun {
  /** Name of its database in the test cluster. */
  readonly database: string;
  /** Its data folder. */
  readonly data: string;
}

/** One private PostgreSQL cluster for all test files; each makes databases of its own in it. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const data = mkdtempSync(join(tmpdir(), "corbix-test-"));
  // As root the server runs under another account, which has to reach its folder.
  chmodSync(data, 0o755);
  const cluster = await startCluster({ data, port: await freePort(), fast: true });
  project.provide("databaseUrl", cluster.url);
  const kept = mkdtempSync(join(tmpdir(), "corbix-begun-"));
  project.provide("begun", {
    bare: await begin(cluster.url, "begun_bare", join(kept, "bare"), false),
    demo: await begin(cluster.url, "begun_demo", join(kept, "demo"), true),
  });
  return async () => {
    await cluster.stop();
    rmSync(kept, { recursive: true, force: true });
    rmSync(data, { recursive: true, force: true });
  };
}

async function begin(clusterUrl: string, database: string, data: string, demo: boolean): Promise<Begun> {
  // Loaded here, since it is built: whatever runs no service does without.
  const { startTestService } = await import("./start-service.js");
  const service = await startTestService(clusterUrl, database, data, {
    CORBIX_WORKERS: "0",
    CORBIX_DEMO: String(demo),
  });
  await service.close();
  return { database, data };
}

function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const server = createServer().listen(0, "127.0.0.1", () => {
      const address = server.address();
      server.close(() => resolve(typeof address === "object" && address ? address.port : 0));
    });
  });
}
