/** The contract of the HTTP API: what every call takes and answers. Server, OpenAPI document and client are made from it. */
import { datasetEndpoints } from "./datasets.js";
import { draftEndpoints } from "./drafts.js";
import { keepingEndpoints } from "./keeping.js";
import { libraryEndpoints } from "./library.js";
import { outboxEndpoints } from "./outbox.js";
import { recipientEndpoints } from "./recipients.js";
import { runEndpoints } from "./runs.js";
import { serviceEndpoints } from "./service.js";
import { toolEndpoints } from "./tools.js";

export { problem } from "./common.js";
export { BASE, type Body, type Endpoint, type Endpoints, type Method } from "./endpoint.js";
export { openApiDocument } from "./openapi.js";
export { identitySecret, identitySettings, letterboxRule } from "./outbox.js";
export { wordPairs } from "./tools.js";
export {
  datasetEndpoints,
  draftEndpoints,
  keepingEndpoints,
  libraryEndpoints,
  outboxEndpoints,
  recipientEndpoints,
  runEndpoints,
  serviceEndpoints,
  toolEndpoints,
};

/** Every endpoint under its operation id. */
export const endpoints = {
  ...serviceEndpoints,
  ...datasetEndpoints,
  ...libraryEndpoints,
  ...draftEndpoints,
  ...keepingEndpoints,
  ...recipientEndpoints,
  ...runEndpoints,
  ...outboxEndpoints,
  ...toolEndpoints,
};
