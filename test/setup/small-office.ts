/** A service's reports over a few rows of their own, with runs whose steps are driven by hand. */
import { expect } from "vitest";
import { releaseRun } from "../../service/dist/run/release.js";
import { startRun } from "../../service/dist/run/start-run.js";
import type { RunAnswer, TestService } from "./service.js";
import { doSteps } from "./steps.js";

export interface Refused {
  readonly code: string;
  readonly title: string;
  readonly advice: string;
  readonly where: string;
}

export function smallOffice(service: () => TestService) {
  const put = (path: string, body: unknown) => service().call<Refused>("PUT", path, body);
  return {
    load: async (dataset: string, csv: string, file = `${dataset}.csv`): Promise<void> => {
      const made = await service().call("POST", `/api/v1/datasets/${dataset}/editions?file=${file}`, csv);
      expect(made.status).toBe(201);
    },
    list: async (rows: string): Promise<void> => {
      const made = await put("/api/v1/recipients?file=list.csv", `Group,Name,Addresses\n${rows}\n`);
      expect(made.status).toBe(200);
    },
    /** A table of each site's rows, mailed to the site; `more` is the rest of the definition. */
    report: async (name: string, more: string): Promise<void> => {
      const made = await put(
        `/api/v1/reports/${name}`,
        `report: ${name}\ntitle: ${name}\nsplit: site\nfiles: { rows: { name: "{{ site }}", table: { sheet: Rows } } }\nmessage: { subject: "For {{ site }}", body: { text: "Attached." }, attach: [rows] }\n${more}\n`,
      );
      expect(made.body.code).toBeUndefined();
      expect([200, 201]).toContain(made.status);
    },
    plan: async (
      request: Parameters<typeof startRun>[1],
      { release = true }: { readonly release?: boolean } = {},
    ): Promise<string> => {
      const { id } = await startRun(service().context, request, "test");
      await doSteps(service().context, id);
      if (release) await releaseRun(service().context, id, "test");
      return id;
    },
    runOf: async (id: string): Promise<RunAnswer> =>
      (await service().call<RunAnswer>("GET", `/api/v1/runs/${id}`)).body,
    /** Asks for what is refused. */
    refusal: async (method: string, path: string, body?: unknown): Promise<Refused & { readonly status: number }> => {
      const { status, body: said } = await service().call<Refused>(method, path, body);
      return { ...said, status };
    },
    select: <Row extends object>(sql: string, values: unknown[] = []) =>
      service().context.database.select<Row>(sql, values),
  };
}
