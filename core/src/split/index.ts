export { type GroupList, type GroupSurroundings, type ListedGroup, listGroups, recipientKeys } from "./list-groups.js";
export {
  type Alias,
  applyAliases,
  type Group,
  type NearDouble,
  nearDoubles,
  type Split,
  type SplitRule,
  splitBy,
  splitTable,
} from "./split.js";
