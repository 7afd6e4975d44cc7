import type { recordEndpoints } from "@corbix/api";
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import type { Request, Response } from "express";
import { CallLimits } from "../../access/call-limits.js";
import { checkReach } from "../../access/rights.js";
import { noteUse, senderOfCall, setSender } from "../../access/senders.js";
import { noteAction } from "../../audit/audit.js";
import { recordsFromJson } from "../../intake/record-json.js";
import { type RecordFields, takeRecords } from "../../intake/take-records.js";
import { getReport } from "../../library/definitions.js";
import { monotonicMs } from "../../process/clock.js";
import type { Context } from "../../process/context.js";
import { pageOf, removeSender, type SenderRow, sendersOf } from "../../records/index.js";
import { type HandlersOf, iso } from "../handler.js";
import { identify } from "../identify.js";

const MOST_KEY = 200;
/** Of a person who sends a record. */
const PREPARE = { roles: ["prepare"], about: "report" } as const;

export function recordHandlers(context: Context): HandlersOf<typeof recordEndpoints> {
  const limits = new CallLimits(monotonicMs);

  /** A sender of this report, or somebody who is signed in. */
  async function caller(request: Request, response: Response, report: string, body: Uint8Array) {
    const bearer = /^Bearer\s+(\S+)$/i.exec(request.headers.authorization ?? "")?.[1];
    const headers = (name: string): string | undefined => request.get(name);
    const sender = await senderOfCall(context, report, { token: bearer, headers, body });
    if (!sender) {
      const user = await identify(context, request);
      limits.check(user, response);
      await checkReach(context, user, PREPARE, { params: { name: report }, body: undefined });
      return { by: user.name, sender: undefined };
    }
    const { id, perMinute } = sender;
    limits.count(`sender ${id}`, perMinute, response, say().serviceAccess.senderTooOften({ perMinute }));
    await noteUse(context, sender);
    return { by: `sender ${sender.name}`, sender: sender.id };
  }

  return {
    takeRecords: async ({ params, query, body, request, response }) => {
      const { by, sender } = await caller(request, response, params.name, body);
      const records = recordsIn(body, request.get("content-type") ?? "");
      const key = request.get("idempotency-key");
      if (key !== undefined && (key === "" || key.length > MOST_KEY))
        throw new CorbixError("BAD_REQUEST", say().serviceHttp.cannotUseIdempotencyKeyExpected({ maxKey: MOST_KEY }), {
          where: "Idempotency-Key",
        });
      const call = { report: params.name, records, key, callback: query.callback, sender, by };
      const occasions = await takeRecords(context, call);
      response.status(occasions.some(({ isNew }) => isNew) ? 202 : 200);
      return { occasions };
    },

    listSenders: async ({ params, query }) => {
      const report = await getReport(context, params.name);
      const { items, next } = pageOf(await sendersOf(context.database, report.name), query);
      return { items: items.map(showSender), next };
    },

    saveSender: async ({ params, body, user }) => {
      const report = await getReport(context, params.name);
      const secret = await setSender(context, { report: report.name, name: params.sender, ...body }, user.name);
      await noteAction(context.database, user.name, "sender set", report.name, {
        sender: params.sender,
        way: body.way,
      });
      const found = (await sendersOf(context.database, report.name)).find((one) => one.name === params.sender);
      if (!found) throw new CorbixError("NOT_FOUND", say().serviceHttp.cannotFindSender({ name: params.sender }));
      return { ...showSender(found), secret };
    },

    deleteSender: async ({ params, user }) => {
      const report = await getReport(context, params.name);
      if (!(await removeSender(context.database, report.name, params.sender)))
        throw new CorbixError("NOT_FOUND", say().serviceHttp.cannotFindSender({ name: params.sender }), {
          where: "senders",
        });
      await noteAction(context.database, user.name, "sender removed", report.name, { sender: params.sender });
      return { ok: true };
    },
  };
}

function showSender({ name, way, header, form, perMinute, createdBy, createdAt, usedAt }: SenderRow) {
  return { name, way, header, form, perMinute, createdBy, createdAt: iso(createdAt), usedAt: iso(usedAt) };
}

/** Records as JSON, one or a list, or the fields of a form: a field that comes several times is a list. */
function recordsIn(body: Uint8Array, type: string): RecordFields[] {
  const text = Buffer.from(body).toString("utf8");
  if (/^application\/x-www-form-urlencoded\b/i.test(type)) {
    const fields = new URLSearchParams(text);
    const names = [...new Set(fields.keys())];
    return [
      Object.fromEntries(
        names.map((name) => {
          const values = fields.getAll(name);
          return [name, values.length === 1 ? values[0] : values];
        }),
      ),
    ];
  }
  const records = recordsFromJson(text);
  if (records) return records;
  throw new CorbixError("BAD_REQUEST", say().serviceIntake.notTheForm(), {
    where: "body",
    advice: say().serviceIntake.sendAsJson(),
  });
}
