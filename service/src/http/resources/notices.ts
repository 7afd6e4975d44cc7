import type { noticeEndpoints } from "@corbix/api";
import { pageOfNotices } from "../../records/index.js";
import { type HandlersOf, iso } from "../handler.js";

export const noticeHandlers: HandlersOf<typeof noticeEndpoints> = {
  listNotices: async ({ context, query: { kind, report, since, ...wish } }) => {
    const { items, next } = await pageOfNotices(context.database, { kind, report, since }, wish);
    return { items: items.map((one) => ({ ...one, at: iso(one.at) })), next };
  },
};
