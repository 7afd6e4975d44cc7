/** What every way out can do: put a file at a place, once, and say so. */

export interface PutWish {
  /** Whether what is there is written over. */
  readonly over: boolean;
  readonly sha256: string;
  /** What tells this delivery from all others, for servers that go by it. */
  readonly key: string;
}

/** A line to where files are put, open for several of them. */
export interface WayLine {
  /**
   * Puts a file at a path of folders and a name. The same bytes that are there already count as put. Gives the receipt, in words.
   * Throws `PutRefused` where it will not be taken, `PutUnknown` where nobody can know; all else may be tried again.
   */
  readonly put: (path: string, bytes: Uint8Array, wish: PutWish) => Promise<string>;
  readonly remove: (path: string) => Promise<void>;
  readonly close: () => void;
}

/** Certainly not taken, and not for want of trying. */
export class PutRefused extends Error {}

/** All of it was handed over, and the answer did not come. */
export class PutUnknown extends Error {}

/** The whole place is in trouble, not this file: it is left alone for a while. */
export class PlaceInTrouble extends Error {}
