import type { Context } from "../../process/context.js";
import type { Route } from "../route.js";
import { dataRoutes } from "./data.js";
import { intakeRoutes } from "./intake.js";
import { libraryRoutes } from "./library.js";
import { lookRoutes } from "./look.js";
import { mailRoutes } from "./mail.js";
import { outboxRoutes } from "./outbox.js";
import { recipientRoutes } from "./recipients.js";
import { runRoutes } from "./runs.js";
import { sessionRoutes } from "./session.js";
import { storeRoutes } from "./store.js";
import { toolRoutes } from "./tools.js";

export function allRoutes(context: Context): Route[] {
  return [
    ...sessionRoutes(context),
    ...mailRoutes(),
    ...outboxRoutes(),
    ...dataRoutes(),
    ...recipientRoutes(),
    ...intakeRoutes(),
    ...lookRoutes(),
    ...libraryRoutes(),
    ...toolRoutes(),
    ...runRoutes(),
    ...storeRoutes(context),
  ];
}
