import type { noticeEndpoints } from "@corbix/api";
import { checkTime, zoneOf } from "@corbix/core/calendar";
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { namesOf } from "../../access/rights.js";
import { noteAction } from "../../audit/audit.js";
import {
  allWatchers,
  pageOf,
  pageOfNotices,
  removeWatcher,
  saveWatcher,
  type WatcherRow,
} from "../../records/index.js";
import { type HandlersOf, iso } from "../handler.js";

export const noticeHandlers: HandlersOf<typeof noticeEndpoints> = {
  listNotices: async ({ context, query: { kind, report, since, ...wish }, scope }) => {
    const filter = { kind, report, since, among: namesOf(scope) };
    const { items, next } = await pageOfNotices(context.database, filter, wish);
    return { items: items.map((one) => ({ ...one, at: iso(one.at) })), next };
  },

  listWatchers: async ({ context, query }) => {
    const { items, next } = pageOf(await allWatchers(context.database), query);
    return { items: items.map(showWatcher), next };
  },

  saveWatcher: async ({ context, params, body, user }) => {
    const { secret, ...rest } = body;
    if (rest.morning !== null) checkTime(rest.morning, "morning");
    zoneOf(rest.zone, "zone");
    const known = (await allWatchers(context.database)).find((one) => one.name === params.watcher);
    const row: WatcherRow = {
      name: params.watcher,
      ...rest,
      secret: secret === undefined ? (known?.secret ?? null) : context.secrets.seal(secret),
      createdBy: user.name,
    };
    await saveWatcher(context.database, row);
    await noteAction(context.database, user.name, "watcher set", row.name, { kinds: row.kinds, address: row.address });
    return showWatcher(row);
  },

  deleteWatcher: async ({ context, params, user }) => {
    if (!(await removeWatcher(context.database, params.watcher)))
      throw new CorbixError("NOT_FOUND", say().serviceHttp.cannotFindWatcher({ name: params.watcher }), {
        where: "watchers",
      });
    await noteAction(context.database, user.name, "watcher removed", params.watcher);
    return { ok: true };
  },
};

function showWatcher({ secret, createdBy: _, kinds, reports, ...rest }: WatcherRow) {
  return { ...rest, kinds: [...kinds], reports: reports && [...reports], isSigned: secret !== null };
}
