import type { wayEndpoints } from "@corbix/api";
import type { Context } from "../../process/context.js";
import { pageOf } from "../../records/index.js";
import { shownHostKey } from "../../ways/sftp.js";
import {
  getWayState,
  pauseWay,
  removeWay,
  setWay,
  tryWay,
  type WayState,
  wayStates,
  wayVersion,
} from "../../ways/ways.js";
import { type HandlersOf, iso } from "../handler.js";

export const wayHandlers: HandlersOf<typeof wayEndpoints> = {
  listWaysOut: async ({ context, query }) => {
    const page = pageOf(await wayStates(context), query);
    return { items: page.items.map(showWay), next: page.next };
  },

  showWayOut: async ({ context, params, tell }) => {
    const found = await getWayState(context, params.name);
    tell(wayVersion(found));
    return showWay(found);
  },

  saveWayOut: async ({ context, params, body, user, expected, created, tell }) => {
    const isNew = await setWay(context, params.name, body, user.name, expected);
    if (isNew) created(`/ways-out/${params.name}`);
    const found = await getWayState(context, params.name);
    tell(wayVersion(found));
    return showWay(found);
  },

  removeWayOut: async ({ context, params, user }) => {
    await removeWay(context, params.name, user.name);
    return { name: params.name };
  },

  tryWayOut: async ({ context, params }) => ({ words: await tryWay(context, params.name) }),

  hostKeyOf: async ({ body, context }) => ({ hostKey: await shownHostKey(context.reach, body.host, body.port) }),

  pauseWayOut: ({ context, params, user }) => turned(context, params.name, true, user.name),

  resumeWayOut: ({ context, params, user }) => turned(context, params.name, false, user.name),
};

async function turned(context: Context, name: string, paused: boolean, by: string) {
  await pauseWay(context, name, paused, by);
  return showWay(await getWayState(context, name));
}

function showWay({ restUntil, ...state }: WayState) {
  return { ...state, restUntil: iso(restUntil) };
}
