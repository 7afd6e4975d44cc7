import type { personEndpoints } from "@corbix/api";
import { PersonSearches, type SearchState } from "../../person/searches.js";
import type { Context } from "../../process/context.js";
import type { HandlersOf } from "../handler.js";

export function personHandlers(context: Context): HandlersOf<typeof personEndpoints> {
  const searches = new PersonSearches(context);
  return {
    searchPerson: async ({ body, user, response }) => {
      response.status(202);
      return shown(searches.start(body.words, user.name));
    },

    showPersonSearch: async ({ params }) => shown(searches.get(params.id)),

    exportPerson: async ({ params, user, response }) => {
      const bytes = await searches.export(params.id, user.name);
      response.attachment("known.zip").type("application/zip").send(Buffer.from(bytes));
    },

    erasePerson: async ({ params, body, user, response }) => {
      response.status(202);
      return shown(searches.erase(params.id, body, user.name));
    },
  };
}

function shown(state: SearchState) {
  return {
    ...state,
    words: [...state.words],
    before: [...state.before],
    places: state.places.map((one) => ({ ...one, kept: [...one.kept], examples: [...one.examples] })),
  };
}
