import type { haltEndpoints } from "@corbix/api";
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { noteAction } from "../../audit/audit.js";
import { announce } from "../../events/events.js";
import { addHalt, decideFound, endHalts, type HaltRow, pageOfFound, pageOfHalts } from "../../records/index.js";
import { type HandlersOf, iso } from "../handler.js";

export const haltHandlers: HandlersOf<typeof haltEndpoints> = {
  listHalts: async ({ context: { database }, query: { open, ...wish } }) => {
    const { items, next } = await pageOfHalts(database, { open }, wish);
    return { items: items.map(shown), next };
  },

  haltSending: async ({ context, body, user, response }) => {
    const { database } = context;
    const halt = { why: "by-hand" as const, facts: { reason: body.reason }, by: user.name, at: context.now() };
    const id = await addHalt(database, halt);
    await noteAction(database, user.name, "sending halted", id, { reason: body.reason });
    await announce(database, { kind: "anything", subject: "halt" });
    response.status(201).location(`/api/v1/halts/${id}/messages`);
    return { id };
  },

  goOnSending: async ({ context, body, user }) => {
    const { database } = context;
    const ended = await endHalts(database, user.name, body.reason, context.now());
    if (ended.length === 0) throw new CorbixError("CONFLICT", say().serviceJournal.notHalted(), { where: "halts" });
    await noteAction(database, user.name, "sending goes on", ended.join(", "), { reason: body.reason });
    await announce(database, { kind: "anything", subject: "halt" });
    return { ended: ended.length };
  },

  listFoundMessages: async ({ context: { database }, params, query: { open, ...wish } }) => {
    const { items, next } = await pageOfFound(database, { halt: params.id, open }, wish);
    return { items: items.map((one) => ({ ...one, at: iso(one.at), addresses: [...one.addresses] })), next };
  },

  decideFoundMessage: async ({ context, params, body, user }) => {
    const { database } = context;
    const isDone = await decideFound(database, params.id, { as: body.as, by: user.name, at: context.now() });
    if (!isDone)
      throw new CorbixError("CONFLICT", say().serviceJournal.foundNotOpen({ id: params.id }), { where: params.id });
    await noteAction(database, user.name, `found message decided: ${body.as}`, params.id);
    await announce(database, { kind: "anything", subject: "halt" });
    return { as: body.as };
  },
};

function shown({ facts, ...one }: HaltRow) {
  return {
    ...one,
    what: whatOf(one, facts),
    at: iso(one.at),
    endedAt: one.endedAt && iso(one.endedAt),
  };
}

/** Why nothing leaves, in say().serviceJournal. */
function whatOf({ why, sent, unsure }: Omit<HaltRow, "facts">, facts: HaltRow["facts"]): string {
  if (why === "by-hand") return say().serviceJournal.haltedByHand({ reason: String(facts.reason) });
  if (why === "restored")
    return say().serviceJournal.restored({
      taken: String(facts.taken)
        .replace("T", " ")
        .replace(/:\d\d\.\d+Z$/, " UTC"),
      journal: Number(facts.journal),
      sent,
      unsure,
    });
  if (why === "gone-back") return say().serviceJournal.goneBack({ sent, unsure });
  const files = (facts.files as string[]).join(", ");
  return why === "other-journal"
    ? say().serviceJournal.otherJournal({ files })
    : say().serviceJournal.damagedJournal({ files });
}
