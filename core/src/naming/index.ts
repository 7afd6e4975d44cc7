export {
  foldFileName,
  literalInPattern,
  patternSource,
  plainPattern,
  safeFolder,
  safeName,
  uniqueName,
} from "./file-name.js";
export { collisions, type NamedFile, type NamePlan, planNames } from "./name-plan.js";
