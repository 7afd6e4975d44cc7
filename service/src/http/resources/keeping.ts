import type { keepingEndpoints, Scope } from "@corbix/api";
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

  showKept: async ({ context, params: { kind, name }, scope }) => showKept(await keptOf(context, kind, name), scope),

  renameKept: async ({ context, params: { kind, name }, body, user, scope }) =>
    showKept(await keptOf(context, kind, await renameKept(context, kind, name, { ...body, by: user.name })), scope),

  copyKept: async ({ context, params: { kind, name }, body: { to, title }, user, scope, created }) => {
    await copyKept(context, kind, name, { to, title, by: user.name });
    created(`/${kind}/${encodeURIComponent(to)}`);
    return showKept(await keptOf(context, kind, to), scope);
  },

  archiveKept: async ({ context, params: { kind, name }, user, scope }) => {
    await archiveKept(context, kind, name, user.name);
    return showKept(await keptOf(context, kind, name), scope);
  },

  bringBackKept: async ({ context, params: { kind, name }, user, scope }) => {
    await bringBackKept(context, kind, name, user.name);
    return showKept(await keptOf(context, kind, name), scope);
  },

  deleteKept: ({ context, params: { kind, name }, user }) => deleteKept(context, kind, name, user.name),
};

/** To whom only some reports are open, what several share does not name those of others. */
function showKept({ kind, name, formerNames, archived, hanging, isKeptForRuns }: Kept, scope: Scope) {
  return {
    kind,
    name,
    formerNames,
    archivedAt: archived ? iso(archived.at) : null,
    archivedBy: archived?.by ?? null,
    hanging: scope === "all" || kind === "reports" ? hanging : hanging.map((one) => ({ ...one, names: [] })),
    keptForRuns: isKeptForRuns,
  };
}
