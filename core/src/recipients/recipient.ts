import type { Address } from "./addresses.js";

export type Role = "to" | "copy" | "blind";

/** Who receives for a group. */
export interface Recipient {
  /** The group as written in the list; `*` for all. */
  readonly group: string;
  /** Cleaned key, matched with the group's. */
  readonly key: string;
  /** Only for reports of this dataset; for all, if it names none. */
  readonly dataset?: string;
  readonly name: string;
  /** In which line of the message its own addresses stand. */
  readonly role?: Role;
  readonly to: readonly Address[];
  readonly copies: readonly Address[];
  readonly blindCopies: readonly Address[];
  /** Language tag (BCP 47) of what it reads. */
  readonly language?: string;
  /** First and last day on which it receives, as serials. */
  readonly from?: number;
  readonly until?: number;
  /** It stays in the list and never gets anything. */
  readonly neverSend?: boolean;
  /** Further columns of the list, by their names. */
  readonly fields: Readonly<Record<string, string>>;
  /** Row in the list it came from. */
  readonly row: number;
}

/** Stands for every group. */
export const ALL_GROUPS = "*";
