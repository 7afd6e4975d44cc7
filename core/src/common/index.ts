export { bytesFromText, sha256, textFromBytes } from "./bytes.js";
export { cleanText, columnKey, editDistance, groupKey, looseKey, nearestName, suggestName } from "./clean.js";
export {
  addMonths,
  type DateParts,
  dateFromSerial,
  isDay,
  isoFromSerial,
  isRealDay,
  MS_PER_DAY,
  maybeSerialFromIso,
  partsFromSerial,
  serialFromParts,
} from "./dates.js";
export {
  CHART_KINDS,
  type ChartKind,
  DECK_PAGES,
  type DeckPages,
  GROWTH_PLACES,
  type GrowthPlace,
} from "./deck-words.js";
export { CorbixError, ERRORS, type ErrorCode } from "./errors.js";
export { addsUp, Exact } from "./exact.js";
export { greatest, least } from "./extent.js";
export { type Finding, hasStop, type Severity, type SummedFinding, sortFindings, sumUpFindings } from "./finding.js";
export { formatValue } from "./format.js";
export { groupedBy } from "./grouped-by.js";
export { readMeasure } from "./measures.js";
export { memoize } from "./memoize.js";
export { codePointOf, known, made, oneOf, wordsOf } from "./must.js";
export { packageOnUse } from "./package-on-use.js";
