import { fileURLToPath } from "node:url";
import { makeDatabase } from "../../scripts/lib/postgres.mjs";
import { readSettings } from "../../service/dist/process/settings.js";
import { type Service, startService } from "../../service/dist/process/supervisor.js";

const root = fileURLToPath(new URL("../..", import.meta.url)).replace(/\/$/, "");

/** Starts a service on loopback, in a database of a cluster and a folder that may be there or not. */
export async function startTestService(
  clusterUrl: string,
  database: string,
  data: string,
  environment: Record<string, string> = {},
  now?: () => Date,
  consoleFolder = `${root}/console/dist`,
): Promise<Service & { readonly databaseUrl: string }> {
  await makeDatabase(clusterUrl, database);
  const databaseUrl = clusterUrl.replace(/\/[^/]+$/, `/${database}`);
  const settings = readSettings(
    {
      CORBIX_DATA: data,
      CORBIX_PORT: "0",
      CORBIX_LETTERBOX_PORT: "0",
      CORBIX_WORKERS: "1",
      CORBIX_LOG_LEVEL: "silent",
      CORBIX_ZONE: "Europe/Zurich",
      CORBIX_MAIL_PER_MINUTE: "60000",
      // What hangs ends, not what is slow.
      CORBIX_ANSWER_SECONDS: "240",
      CORBIX_CHECK_ANSWERS: "true",
      // The servers that tests call lie on this machine.
      CORBIX_REACH_INSIDE: "127.0.0.1",
      ...environment,
    },
    root,
  );
  const service = await startService({
    settings,
    databaseUrl,
    consoleFolder,
    demoFolder: `${root}/demo/files`,
    ...(now ? { now } : {}),
  });
  return { ...service, databaseUrl };
}
