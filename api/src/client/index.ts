/** A client of Corbix for scripts and pages: typed by the service's OpenAPI document, without anything of the service itself. */
export {
  type Answer,
  type Call,
  type ClientOptions,
  type CorbixClient,
  connect,
  type ListPath,
  type PathOf,
  type ServiceEvent,
} from "./client.js";
export type { components, paths } from "./paths.js";
export { Problem, problemOf } from "./problem.js";
