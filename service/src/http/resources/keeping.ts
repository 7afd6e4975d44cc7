import type { keepingEndpoints } from "@corbix/api";
import {
  archivedThings,
  archiveKept,
  bringBackKept,
  copyKept,
  deleteKept,
  type Kept,
  keptOf,
  renameKept,
} from "../../library/keeping.js";
import { pageOf } from "../../records/index.js";
import { type HandlersOf, iso } from "../handler.js";

export const keepingHandlers: HandlersOf<typeof keepingEndpoints> = {
  listArchived: async ({ context, params, query }) =>
    pageOf(
      (await archivedThings(context, params.kind)).map(({ name, title, at, by }) => ({
        name,
        title,
        archivedAt: iso(at),
        archivedBy: by,
      })),
      query,
    ),

  showKept: async ({ context, params: { kind, name } }) => showKept(await keptOf(context, kind, name)),

  renameKept: async ({ context, params: { kind, name }, body, user }) =>
    showKept(await keptOf(context, kind, await renameKept(context, kind, name, { ...body, by: user.name }))),

  copyKept: async ({ context, params: { kind, name }, body: { to, title }, user, created }) => {
    await copyKept(context, kind, name, { to, title, by: user.name });
    created(`/${kind}/${encodeURIComponent(to)}`);
    return showKept(await keptOf(context, kind, to));
  },

  archiveKept: async ({ context, params: { kind, name }, user }) => {
    await archiveKept(context, kind, name, user.name);
    return showKept(await keptOf(context, kind, name));
  },

  bringBackKept: async ({ context, params: { kind, name }, user }) => {
    await bringBackKept(context, kind, name, user.name);
    return showKept(await keptOf(context, kind, name));
  },

  deleteKept: ({ context, params: { kind, name }, user }) => deleteKept(context, kind, name, user.name),
};

function showKept({ kind, name, formerNames, archived, hanging, isKeptForRuns }: Kept) {
  return {
    kind,
    name,
    formerNames,
    archivedAt: archived ? iso(archived.at) : null,
    archivedBy: archived?.by ?? null,
    hanging,
    keptForRuns: isKeptForRuns,
  };
}
