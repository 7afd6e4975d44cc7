import { randomBytes } from "node:crypto";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { makeDatabase } from "../../scripts/lib/postgres.mjs";
import { readSettings } from "../../service/dist/process/settings.js";
import { type Service, startService } from "../../service/dist/process/supervisor.js";

const root = fileURLToPath(new URL("../..", import.meta.url)).replace(/\/$/, "");

export interface TestService extends Service {
  readonly databaseUrl: string;
  readonly data: string;
  readonly call: <T = Record<string, unknown>>(
    method: string,
    path: string,
    body?: unknown,
  ) => Promise<{ status: number; body: T }>;
  readonly waitFor: (run: string, states: readonly string[]) => Promise<RunAnswer>;
}

export interface RunAnswer {
  readonly id: string;
  readonly state: string;
  readonly sentences: readonly string[];
  readonly findings: readonly { readonly code: string; readonly severity: string; readonly what: string }[];
  readonly progress: { readonly parcels: Record<string, number>; readonly messages: Record<string, number> };
  readonly proof: { readonly mayBeReleased: boolean; readonly messages: number } | null;
  readonly error: { readonly code: string; readonly message: string } | null;
}

/** A service of its own on loopback: own database, own folder, real workers, real letterbox. */
export async function testService(
  clusterUrl: string,
  environment: Record<string, string> = {},
  now?: () => Date,
): Promise<TestService> {
  const name = `test_${randomBytes(5).toString("hex")}`;
  await makeDatabase(clusterUrl, name);
  const databaseUrl = clusterUrl.replace(/\/[^/]+$/, `/${name}`);
  const data = mkdtempSync(join(tmpdir(), "corbix-service-"));
  const settings = readSettings(
    {
      CORBIX_DATA: data,
      CORBIX_PORT: "0",
      CORBIX_LETTERBOX_PORT: "0",
      CORBIX_WORKERS: "1",
      CORBIX_LOG_LEVEL: "silent",
      CORBIX_ZONE: "Europe/Zurich",
      CORBIX_MAIL_PER_MINUTE: "60000",
      ...environment,
    },
    root,
  );
  const service = await startService({
    settings,
    databaseUrl,
    consoleFolder: `${root}/console/dist`,
    demoFolder: `${root}/demo/files`,
    ...(now ? { now } : {}),
  });
  const call = async <T>(method: string, path: string, body?: unknown): Promise<{ status: number; body: T }> => {
    const isRaw = typeof body === "string" || body instanceof Uint8Array;
    const response = await fetch(service.url + path, {
      method,
      headers: {
        Authorization: `Bearer ${service.signIn.token}`,
        "Content-Type": isRaw ? "application/octet-stream" : "application/json",
      },
      ...(body === undefined ? {} : { body: isRaw ? (body as string) : JSON.stringify(body) }),
    });
    return { status: response.status, body: (await response.json()) as T };
  };
  return {
    ...service,
    databaseUrl,
    data,
    call,
    waitFor: async (run, states) => {
      const end = Date.now() + 240_000;
      for (;;) {
        const { body } = await call<RunAnswer>("GET", `/api/runs/${run}`);
        if (states.includes(body.state)) return body;
        if (Date.now() > end) throw new Error(`run ${run} is still ${body.state}: ${JSON.stringify(body.error)}`);
        await new Promise((resolve) => setTimeout(resolve, 100));
      }
    },
    close: async () => {
      await service.close();
      rmSync(data, { recursive: true, force: true });
    },
  };
}
