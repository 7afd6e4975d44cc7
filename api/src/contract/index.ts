/** The contract of the HTTP API: what every call takes and answers. Server, OpenAPI document and client are made from it. */
import { calendarEndpoints } from "./calendars.js";
import { datasetEndpoints } from "./datasets.js";
import { draftEndpoints } from "./drafts.js";
import { enquiryEndpoints } from "./enquiries.js";
import { keepingEndpoints } from "./keeping.js";
import { libraryEndpoints } from "./library.js";
import { noticeEndpoints } from "./notices.js";
import { outboxEndpoints } from "./outbox.js";
import { recipientEndpoints } from "./recipients.js";
import { recordEndpoints } from "./records.js";
import { runEndpoints } from "./runs.js";
import { serviceEndpoints } from "./service.js";
import { toolEndpoints } from "./tools.js";
import { wayEndpoints } from "./ways.js";

export { problem } from "./common.js";
export { BASE, type Body, type Endpoint, type Endpoints, type Method } from "./endpoint.js";
export { NOTICE_KINDS, type NoticeKind } from "./notices.js";
export { openApiDocument } from "./openapi.js";
export { identitySecret, identitySettings, letterboxRule } from "./outbox.js";
export { wordPairs } from "./tools.js";
export { wayOutSecret, wayOutSettings } from "./ways.js";
export {
  calendarEndpoints,
  datasetEndpoints,
  draftEndpoints,
  enquiryEndpoints,
  keepingEndpoints,
  libraryEndpoints,
  noticeEndpoints,
  outboxEndpoints,
  recipientEndpoints,
  recordEndpoints,
  runEndpoints,
  serviceEndpoints,
  toolEndpoints,
  wayEndpoints,
};

/** Every endpoint under its operation id. */
export const endpoints = {
  ...serviceEndpoints,
  ...datasetEndpoints,
  ...libraryEndpoints,
  ...calendarEndpoints,
  ...draftEndpoints,
  ...enquiryEndpoints,
  ...keepingEndpoints,
  ...recipientEndpoints,
  ...recordEndpoints,
  ...runEndpoints,
  ...noticeEndpoints,
  ...outboxEndpoints,
  ...wayEndpoints,
  ...toolEndpoints,
};
