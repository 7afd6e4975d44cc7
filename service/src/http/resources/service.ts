import { scopeOf, type serviceEndpoints } from "@corbix/api";
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { reachOf } from "../../access/rights.js";
import { noteAction } from "../../audit/audit.js";
import type { Context } from "../../process/context.js";
import { countEverything, type FoundNames, isAnswering, searchEverything, troublesOf } from "../../records/index.js";
import { labelOfPeriod } from "../../run/period-label.js";
import { Verifier } from "../../store/verify.js";
import type { HandlersOf } from "../handler.js";

/** What went wrong longer ago is history: the outbox has it. */
const TROUBLE_DAYS = 30;

/** What was found as one list: what is looked for most stands first. */
function shownNames(found: FoundNames) {
  const titled = ({ period, calendar, definition }: FoundNames["runs"][number]): string =>
    `${definition.title}, ${labelOfPeriod(period, definition, calendar)}`;
  return [
    ...found.groups.map((one) => ({
      kind: "group" as const,
      title: one.label,
      what: titled(one),
      name: one.run,
      parcel: one.number,
    })),
    ...found.people.map(({ name, group, to }) => ({
      kind: "person" as const,
      title: name || (to[0]?.address ?? ""),
      what: [to.map(({ address }) => address).join(", "), group].filter(Boolean).join(", for "),
      name: name || (to[0]?.address ?? ""),
      parcel: null,
    })),
    ...found.reports.map(({ name, title }) => ({ kind: "report" as const, title, what: name, name, parcel: null })),
    ...found.runs.map((one) => ({
      kind: "run" as const,
      title: titled(one),
      what: say().place.run({ id: one.run }),
      name: one.run,
      parcel: null,
    })),
    ...found.files.map((one) => ({
      kind: "file" as const,
      title: one.path.slice(one.path.lastIndexOf("/") + 1),
      what: titled(one),
      name: one.run,
      parcel: one.number,
    })),
    ...found.datasets.map(({ name }) => ({ kind: "dataset" as const, title: name, what: "data", name, parcel: null })),
    ...found.templates.map(({ name }) => ({
      kind: "template" as const,
      title: name,
      what: "template",
      name,
      parcel: null,
    })),
  ];
}

export function serviceHandlers(context: Context): HandlersOf<typeof serviceEndpoints> {
  const verifier = new Verifier(context);
  return {
    showHealth: async ({ context: { database } }) => ({ ok: await isAnswering(database) }),

    showOverview: async ({ context: { database }, user }) => {
      const reach = await reachOf(context, scopeOf(user.grants, ["look"]) ?? []);
      const troubles = await troublesOf(database, TROUBLE_DAYS, reach?.reports);
      return {
        ...(await countEverything(database, reach)),
        troubles: troubles.map(({ definition, period, calendar, groups, ...one }) => ({
          ...one,
          groups: [...groups],
          title: definition.title,
          periodLabel: labelOfPeriod(period, definition, calendar),
        })),
      };
    },

    search: async ({ context: { database }, query: { text }, scope }) => ({
      found: shownNames(await searchEverything(database, text, await reachOf(context, scope))),
    }),

    verifyStore: async ({ user, response }) => {
      const started = verifier.start();
      await noteAction(context.database, user.name, "file store verified", "store");
      response.status(202);
      return started;
    },

    showVerification: async () => {
      if (verifier.state) return verifier.state;
      throw new CorbixError("NOT_FOUND", say().serviceHttp.nothingVerifiedSinceServiceStarted(), {
        where: "verification",
        advice: say().serviceHttp.startCorbixVerify(),
      });
    },
  };
}
