export {
  type Address,
  addressFault,
  addressFindings,
  bareAddress,
  domainOf,
  foldAddress,
  readAddresses,
  sameAddress,
  showAddress,
} from "./addresses.js";
export { readCards, writeCards } from "./cards.js";
export { type Matched, type Matching, type MatchRules, matchRecipients } from "./match.js";
export { type ListChange, type MergedList, type MergeMode, mergeRecipients } from "./merge.js";
export { ENTRY_FAULTS, type RecipientList, readRecipients } from "./read-list.js";
export { ALL_GROUPS, type Recipient, type Role } from "./recipient.js";
export { listAsRows } from "./write-list.js";
