import { CorbixError } from "@corbix/core/common";
import { z } from "zod";
import { noteAction } from "../../audit/audit.js";
import type { Context } from "../../process/context.js";
import { Verifier } from "../../store/verify.js";
import { type Route, route } from "../route.js";

const verification = z.object({
  state: z.enum(["running", "done", "failed"]),
  total: z.number().int().describe("Files that are there or should be."),
  checked: z.number().int(),
  whole: z.number().int(),
  faults: z.array(z.object({ sha256: z.string(), what: z.enum(["damaged", "missing"]), uses: z.array(z.string()) })),
  nobodys: z.number().int().describe("Files that nothing refers to; they are taken away when they are old enough."),
  startedAt: z.string(),
  error: z.string().nullable(),
});

export function storeRoutes(context: Context): Route[] {
  const verifier = new Verifier(context);
  return [
    route("post", "/api/verify", {
      summary: "Read the whole file store against the records; it goes on behind the answer",
      tag: "Service",
      answer: verification,
      handle: async ({ user }) => {
        const started = verifier.start();
        await noteAction(context.database, user.name, "file store verified", "store");
        return started;
      },
    }),
    route("get", "/api/verify", {
      summary: "How far the last verification is, and what it found",
      tag: "Service",
      answer: verification,
      handle: async () => {
        if (verifier.state) return verifier.state;
        throw new CorbixError("NOT_FOUND", "Nothing was verified since the service was started.", {
          where: "verify",
          advice: "Start it: corbix verify.",
        });
      },
    }),
  ];
}
