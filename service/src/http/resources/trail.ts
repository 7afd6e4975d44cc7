import type { trailEndpoints } from "@corbix/api";
import { type ActionRow, pageOfTrail, trailWords, wholeTrail } from "../../records/index.js";
import { type HandlersOf, iso } from "../handler.js";

export const trailHandlers: HandlersOf<typeof trailEndpoints> = {
  listTrail: async ({ context, query: { limit, cursor, ...filter } }) => {
    const { items, next } = await pageOfTrail(context.database, filter, { limit, cursor });
    return { items: items.map(showEntry), next };
  },

  listTrailWords: async ({ context }) => ({ words: await trailWords(context.database) }),

  downloadTrail: async ({ context, response }) => {
    response.attachment("trail.jsonl").type("application/jsonl");
    for await (const some of wholeTrail(context.database)) {
      const isTaken = response.write(some.map((entry) => `${JSON.stringify(showEntry(entry))}\n`).join(""));
      if (!isTaken) await new Promise((resolve) => response.once("drain", resolve).once("close", resolve));
      if (response.destroyed) return;
    }
    response.end();
  },
};

function showEntry({ id, at, who, calledFrom, what, subject, facts, hash, isErased }: ActionRow) {
  return {
    id,
    at: iso(at),
    who,
    from: calledFrom,
    what,
    subject,
    facts: facts as Record<string, unknown>,
    hash,
    isErased,
  };
}
