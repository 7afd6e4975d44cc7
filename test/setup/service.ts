import { randomBytes } from "node:crypto";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { type CorbixClient, connect } from "@corbix/api/client";
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
    headers?: Record<string, string>,
  ) => Promise<{ status: number; body: T; headers: Headers }>;
  /** All items of a list, page by page. */
  readonly list: <T>(path: string) => Promise<T[]>;
  /** The typed client, as somebody else's script uses it. */
  readonly client: CorbixClient;
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
  consoleFolder = `${root}/console/dist`,
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
      // What hangs ends, not what is slow.
      CORBIX_ANSWER_SECONDS: "240",
      CORBIX_CHECK_ANSWERS: "true",
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
  const call = async <T>(
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<{ status: number; body: T; headers: Headers }> => {
    const isRaw = typeof body === "string" || body instanceof Uint8Array;
    const response = await fetch(service.url + path, {
      method,
      headers: {
        Authorization: `Bearer ${service.signIn.token}`,
        "Content-Type": isRaw ? "application/octet-stream" : "application/json",
        ...headers,
      },
      ...(body === undefined ? {} : { body: isRaw ? (body as string) : JSON.stringify(body) }),
    });
    return { status: response.status, body: (await response.json()) as T, headers: response.headers };
  };
  const list = async <T>(path: string): Promise<T[]> => {
    const items: T[] = [];
    let cursor: string | null = null;
    do {
      const to: string = cursor === null ? path : `${path}${path.includes("?") ? "&" : "?"}cursor=${cursor}`;
      const { status, body }: { status: number; body: { items: T[]; next: string | null } } = await call("GET", to);
      if (status !== 200) throw new Error(`${to} answered ${status}: ${JSON.stringify(body)}`);
      items.push(...body.items);
      cursor = body.next;
    } while (cursor !== null);
    return items;
  };
  return {
    ...service,
    list,
    client: connect({ url: service.url, token: service.signIn.token }),
    databaseUrl,
    data,
    call,
    waitFor: async (run, states) => {
      const end = Date.now() + 240_000;
      for (;;) {
        const { body } = await call<RunAnswer>("GET", `/api/v1/runs/${run}`);
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
