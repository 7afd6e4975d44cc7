/** What tests in the browser cannot make themselves, since the core runs where the service does. */
import { reportSchema } from "@corbix/core/report";
import type { TestProject } from "vitest/node";
import { z } from "zod";

declare module "vitest" {
  export interface ProvidedContext {
    /** The JSON Schema of a definition, as the service gives it. */
    reportSchema: string;
  }
}

export default function setup(project: TestProject): void {
  project.provide("reportSchema", JSON.stringify(z.toJSONSchema(reportSchema, { io: "input" })));
}
