/** The contract of the HTTP API: what every call takes and answers. Server, OpenAPI document and client are made from it. */
import { calendarEndpoints } from "./calendars.js";
import { datasetEndpoints } from "./datasets.js";
import { draftEndpoints } from "./drafts.js";
import { enquiryEndpoints } from "./enquiries.js";
import { haltEndpoints } from "./halts.js";
import { keepingEndpoints } from "./keeping.js";
import { libraryEndpoints } from "./library.js";
import { noticeEndpoints } from "./notices.js";
import { operationEndpoints } from "./operations.js";
import { outboxEndpoints } from "./outbox.js";
import { peopleEndpoints } from "./people.js";
import { personEndpoints } from "./persons.js";
import { recipientEndpoints } from "./recipients.js";
import { recordEndpoints } from "./records.js";
import { RIGHTS, type Right } from "./rights.js";
import { runEndpoints } from "./runs.js";
import { serviceEndpoints } from "./service.js";
import { signInEndpoints } from "./sign-in.js";
import { toolEndpoints } from "./tools.js";
import { trailEndpoints } from "./trail.js";
import { wayEndpoints } from "./ways.js";

export { problem } from "./common.js";
export { BASE, type Body, type Endpoint, type Endpoints, type Method } from "./endpoint.js";
export { NOTICE_KINDS, type NoticeKind } from "./notices.js";
export { openApiDocument } from "./openapi.js";
export { identitySecret, identitySettings, letterboxRule } from "./outbox.js";
export {
  type About,
  bothGrants,
  type Grants,
  HOLDERS,
  type Right,
  ROLES,
  type Role,
  type Scope,
  scopeOf,
  WITHOUT_FACTOR,
} from "./rights.js";
export { type SignInProvider, signInProvider } from "./sign-in.js";
export { wordPairs } from "./tools.js";
export { wayOutSecret, wayOutSettings } from "./ways.js";
export {
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
};

/** Every endpoint under its operation id. */
export const endpoints = {
  ...serviceEndpoints,
  ...signInEndpoints,
  ...datasetEndpoints,
  ...libraryEndpoints,
  ...haltEndpoints,
  ...operationEndpoints,
  ...calendarEndpoints,
  ...draftEndpoints,
  ...enquiryEndpoints,
  ...keepingEndpoints,
  ...peopleEndpoints,
  ...personEndpoints,
  ...recipientEndpoints,
  ...recordEndpoints,
  ...runEndpoints,
  ...noticeEndpoints,
  ...outboxEndpoints,
  ...wayEndpoints,
  ...toolEndpoints,
  ...trailEndpoints,
};

/** What each call needs. A call without a line in the table does not compile, nor a line without its call. */
export const rights: Readonly<Record<keyof typeof endpoints, Right>> = RIGHTS;
