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
  }
}

/** One private PostgreSQL cluster for all test files; each makes databases of its own in it. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const data = mkdtempSync(join(tmpdir(), "corbix-test-"));
  // As root the server runs under another account, which has to reach its folder.
  chmodSync(data, 0o755);
  const cluster = await startCluster({ data, port: await freePort(), fast: true });
  project.provide("databaseUrl", cluster.url);
  return async () => {
    await cluster.stop();
    rmSync(data, { recursive: true, force: true });
  };
}

function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const server = createServer().listen(0, "127.0.0.1", () => {
      const address = server.address();
      server.close(() => resolve(typeof address === "object" && address ? address.port : 0));
    });
  });
}
