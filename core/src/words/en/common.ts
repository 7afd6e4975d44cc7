import { counted, thousands } from "./numbers.js";

export const common = {
  moreLike: ({ what, ownCount }: { what: string; ownCount: number }) =>
    `${what} And ${thousands(ownCount)} more like it.`,
  didYouMean: ({ near }: { near: string }) => `Did you mean "${near}"?`,
  theThereAre: ({ kind, shown, value }: { kind: string; shown: string; value: string }) =>
    `The ${kind} there are: ${shown || "none"}${value}.`,
  groups: ({ count }: { count: number }) => counted(count, "group", "groups"),
  rows: ({ count }: { count: number }) => counted(count, "row", "rows"),
  messages: ({ count }: { count: number }) => counted(count, "message", "messages"),
  files: ({ count }: { count: number }) => counted(count, "file", "files"),
  people: ({ count }: { count: number }) => counted(count, "person", "people"),
  listedRows: ({ count, numbers }: { count: number; numbers: string }) => `${count === 1 ? "row" : "rows"} ${numbers}`,
};
