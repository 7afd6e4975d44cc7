import { diffArrays } from "diff";

/** Lines that went and came between two texts, in their order. */
export interface ChangedLine {
  readonly kind: "gone" | "added";
  readonly text: string;
}

export function differenceOf(before: string, after: string): ChangedLine[] {
  return diffArrays(before.split("\n"), after.split("\n")).flatMap(({ added, removed, value }) =>
    added || removed ? value.map((text): ChangedLine => ({ kind: added ? "added" : "gone", text })) : [],
  );
}
