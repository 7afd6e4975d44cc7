import { randomBytes } from "node:crypto";
import { cpSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type CorbixClient, connect } from "@corbix/api/client";
import { inject } from "vitest";
import { copyDatabase } from "../../scripts/lib/postgres.mjs";
import type { Service } from "../../service/dist/process/supervisor.js";
import { startTestService } from "./start-service.js";

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
  consoleFolder?: string,
): Promise<TestService> {
  const database = `test_${randomBytes(5).toString("hex")}`;
  const data = mkdtempSync(join(tmpdir(), "corbix-service-"));
  await copyBegun(clusterUrl, database, data, environment, now);
  const service = await startTestService(clusterUrl, database, data, environment, now, consoleFolder);
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

/** What a first start depends on: with any of it set, or another clock, the demo is loaded anew. */
const OF_FIRST_START = ["CORBIX_DEMO", "CORBIX_LANGUAGE", "CORBIX_WORDS", "CORBIX_STORE_LIMIT"];

/** Database and folder of a service that was started before, where it is the same cluster. */
async function copyBegun(
  clusterUrl: string,
  database: string,
  data: string,
  environment: Record<string, string>,
  now: (() => Date) | undefined,
): Promise<void> {
  // A database that was begun has its secrets under a key of its own.
  if (clusterUrl !== inject("databaseUrl") || "CORBIX_SECRET_KEY" in environment) return;
  const isOwn = now !== undefined || OF_FIRST_START.some((name) => name in environment);
  const begun = inject("begun")[isOwn ? "bare" : "demo"];
  await copyDatabase(clusterUrl, begun.database, database);
  cpSync(begun.data, data, { recursive: true });
}
