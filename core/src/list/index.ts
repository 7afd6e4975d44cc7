export type { ListColumnSpec } from "./columns.js";
export { ENCODINGS } from "./delimited.js";
export { type BoundList, bindList, type ListSpec, listKind } from "./list-file.js";
export { LIST_FORMS, LIST_KINDS, type ListForm, type ListKind } from "./list-kinds.js";
