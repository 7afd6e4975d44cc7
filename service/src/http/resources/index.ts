import {
  calendarEndpoints,
  datasetEndpoints,
  draftEndpoints,
  enquiryEndpoints,
  haltEndpoints,
  keepingEndpoints,
  libraryEndpoints,
  noticeEndpoints,
  operationEndpoints,
  outboxEndpoints,
  peopleEndpoints,
  personEndpoints,
  recipientEndpoints,
  recordEndpoints,
  runEndpoints,
  serviceEndpoints,
  signInEndpoints,
  toolEndpoints,
  trailEndpoints,
  wayEndpoints,
} from "@corbix/api";
import type { Ready } from "../../health/ready.js";
import type { Context } from "../../process/context.js";
import { type Route, routesOf } from "../handler.js";
import { calendarHandlers } from "./calendars.js";
import { datasetHandlers } from "./datasets.js";
import { draftHandlers } from "./drafts.js";
import { enquiryHandlers } from "./enquiries.js";
import { haltHandlers } from "./halts.js";
import { keepingHandlers } from "./keeping.js";
import { libraryHandlers } from "./library.js";
import { noticeHandlers } from "./notices.js";
import { operationHandlers } from "./operations.js";
import { outboxHandlers } from "./outbox.js";
import { peopleHandlers } from "./people.js";
import { personHandlers } from "./persons.js";
import { recipientHandlers } from "./recipients.js";
import { recordHandlers } from "./records.js";
import { runHandlers } from "./runs.js";
import { serviceHandlers } from "./service.js";
import { signInHandlers } from "./sign-in.js";
import { toolHandlers } from "./tools.js";
import { trailHandlers } from "./trail.js";
import { wayHandlers } from "./ways.js";

/** Every address the API has. */
export function allRoutes(context: Context, ready: Ready): Route[] {
  return [
    ...routesOf(serviceEndpoints, serviceHandlers(context)),
    ...routesOf(signInEndpoints, signInHandlers(context)),
    ...routesOf(haltEndpoints, haltHandlers),
    ...routesOf(operationEndpoints, operationHandlers(ready)),
    ...routesOf(datasetEndpoints, datasetHandlers),
    ...routesOf(draftEndpoints, draftHandlers),
    ...routesOf(enquiryEndpoints, enquiryHandlers),
    ...routesOf(libraryEndpoints, libraryHandlers),
    ...routesOf(wayEndpoints, wayHandlers),
    ...routesOf(calendarEndpoints, calendarHandlers),
    ...routesOf(keepingEndpoints, keepingHandlers),
    ...routesOf(peopleEndpoints, peopleHandlers),
    ...routesOf(personEndpoints, personHandlers(context)),
    ...routesOf(recipientEndpoints, recipientHandlers),
    ...routesOf(recordEndpoints, recordHandlers(context)),
    ...routesOf(runEndpoints, runHandlers),
    ...routesOf(noticeEndpoints, noticeHandlers),
    ...routesOf(outboxEndpoints, outboxHandlers),
    ...routesOf(toolEndpoints, toolHandlers),
    ...routesOf(trailEndpoints, trailHandlers),
  ];
}
