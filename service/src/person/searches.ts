/** What is known of a person: looked for, exported, erased; one search after the other, each told while it is under way. */
import { randomUUID } from "node:crypto";
import { basename } from "node:path";
import { CorbixError } from "@corbix/core/common";
import { planNames } from "@corbix/core/naming";
import { personWords } from "@corbix/core/person";
import { say } from "@corbix/core/words";
import { LRUCache } from "lru-cache";
import { noteAction } from "../audit/audit.js";
import { announce } from "../events/events.js";
import type { Context } from "../process/context.js";
import { ERASURE, erasuresOf, namesOfUsers, sweepBlobs } from "../records/index.js";
import { type Known, type KnownPlace, knownOf, type Person } from "./known-of.js";

/** Searches that are remembered, and for how long. */
const REMEMBERED = 20;
const REMEMBERED_MS = 24 * 3_600_000;
/** Labels that are told of each place. */
const EXAMPLES = 50;
/** Bytes of files that one export holds. */
const MOST_BYTES = 500_000_000;
const STAND_IN_SIGNS = 12;

/** What was found in one place. */
export interface KnownInPlace {
  readonly place: KnownPlace;
  readonly title: string;
  readonly count: number;
  /** How many of them go when the person is erased. */
  readonly erasable: number;
  /** Why others stay, and how many. */
  readonly kept: readonly { readonly why: string; readonly count: number }[];
  readonly examples: readonly string[];
}

export interface SearchState {
  readonly id: string;
  readonly words: readonly string[];
  readonly state: "looking" | "found" | "erasing" | "erased" | "failed";
  readonly places: readonly KnownInPlace[];
  /** When the person was erased before. */
  readonly before: readonly { readonly at: string; readonly by: string; readonly reason: string }[];
  readonly error: string | null;
}

interface Search {
  state: SearchState;
  person: Person;
}

export class PersonSearches {
  private readonly searches = new LRUCache<string, Search>({ max: REMEMBERED, ttl: REMEMBERED_MS });

  constructor(private readonly context: Context) {}

  /** Begins one; it goes on behind the answer. */
  start(wanted: readonly string[], by: string): SearchState {
    const { secrets } = this.context;
    const plain = personWords(wanted, "");
    const digest = secrets.sign(`person ${(plain.words[0] ?? "").toLowerCase()}`);
    const standIn = `erased-${digest
      .replace(/[^a-zA-Z0-9]/g, "")
      .slice(0, STAND_IN_SIGNS)
      .toLowerCase()}`;
    const person = { words: personWords(wanted, standIn), names: [], standIn };
    const id = randomUUID();
    const state: SearchState = { id, words: person.words.words, state: "looking", places: [], before: [], error: null };
    this.searches.set(id, { state, person });
    void this.look(id, person, by);
    return state;
  }

  /** Throws `NOT_FOUND` for one that is not remembered any more. */
  get(id: string): SearchState {
    return this.search(id).state;
  }

  /** Everything that was found as an archive: a JSON object a line, and the files. Throws `LIMIT_EXCEEDED`. */
  async export(id: string, by: string): Promise<Uint8Array> {
    const { person } = this.search(id);
    const lines: string[] = [];
    const files: NonNullable<Known["file"]>[] = [];
    for await (const { place, label, holds, file } of knownOf(this.context, person, by)) {
      lines.push(
        `${JSON.stringify({ place: say().servicePerson.place({ place }), what: label, holds: await holds() })}\n`,
      );
      if (file) files.push(file);
    }
    const bytes = files.reduce((sum, { size }) => sum + size, 0);
    if (bytes > MOST_BYTES)
      throw new CorbixError("LIMIT_EXCEEDED", say().servicePerson.tooMuch({ bytes }), {
        where: "files",
        advice: say().servicePerson.exportedWithout(),
      });
    const { inGroup } = planNames(
      files.map(({ path, label, run }, at) => ({
        id: String(at),
        path: basename(path),
        group: `${run} ${label}`,
        label: `${run} ${label}`,
      })),
    );
    await noteAction(this.context.database, by, "person's data exported", person.standIn, { files: files.length });
    return this.context.threads.isolated("packFiles", {
      before: [{ name: "known.jsonl", bytes: Buffer.from(lines.join(""), "utf8") }],
      files: files.map(({ sha256 }, at) => ({
        path: this.context.store.pathOf(sha256),
        sha256,
        name: ["files", ...(inGroup.get(String(at)) ?? [`${at}`])].join("/"),
      })),
    });
  }

  /** Erases what nothing keeps, besides places that are left; it goes on behind the answer. Throws `CONFLICT` before the search is done. */
  erase(id: string, wish: { readonly reason: string; readonly leave: readonly string[] }, by: string): SearchState {
    const search = this.search(id);
    if (search.state.state !== "found" && search.state.state !== "erased")
      throw new CorbixError("CONFLICT", say().servicePerson.stillLooking(), {
        where: "person-searches",
        advice: say().servicePerson.waitForSearch(),
      });
    if (search.person.words.isIn(wish.reason))
      throw new CorbixError("BAD_REQUEST", say().servicePerson.reasonNames(), {
        where: "reason",
        advice: say().servicePerson.sayWhoAsked(),
      });
    this.set(id, { state: "erasing" });
    void this.goErase(id, search.person, wish, by);
    return this.get(id);
  }

  private async look(id: string, person: Person, by: string): Promise<void> {
    try {
      await noteAction(this.context.database, by, "person looked for", person.standIn);
      const users = await namesOfUsers(this.context.database, person.words.words);
      const names = users.filter((one) => person.words.isWithin(one)).map(({ name }) => name);
      const found = this.search(id);
      found.person = { ...person, names };
      const places = await summary(knownOf(this.context, found.person, by), (known) => known.erase !== null);
      this.set(id, { state: "found", places, before: await this.erasedBefore(person) });
    } catch (error) {
      this.fail(id, error);
    }
  }

  private async goErase(
    id: string,
    person: Person,
    { reason, leave }: { readonly reason: string; readonly leave: readonly string[] },
    by: string,
  ): Promise<void> {
    try {
      const all: Known[] = [];
      for await (const known of knownOf(this.context, person, by)) all.push(known);
      const goes = all.filter(({ place, erase }) => erase !== null && !leave.includes(place));
      // An entry is written before those it names are changed: a chain in which one is changed and none says so is broken.
      const entries = goes.flatMap(({ place, holds }) => (place === "trail" ? [(holds() as { id: string }).id] : []));
      const counts = Object.fromEntries(
        [...new Set(goes.map(({ place }) => place))].map((place) => [
          place,
          goes.filter((one) => one.place === place).reduce((sum, one) => sum + one.count, 0),
        ]),
      );
      const kept = all.length - goes.length;
      await noteAction(this.context.database, by, ERASURE, person.standIn, { reason, erased: counts, kept, entries });
      // The list is changed once, however many entries of it there are.
      const isListDone = new Set<string>();
      for (const { place, erase } of goes) {
        if (place === "list" && isListDone.has(place)) continue;
        isListDone.add(place);
        await erase?.();
      }
      await sweepBlobs(this.context.database, this.context.store, this.context.now());
      for (const kind of ["recipients", "dataset", "run", "access"] as const)
        await announce(this.context.database, { kind, subject: person.standIn });
      const places = await summary(knownOf(this.context, person, by), (known) => known.erase !== null);
      this.set(id, { state: "erased", places, before: await this.erasedBefore(person) });
    } catch (error) {
      // What was erased is; the rest is found by another search.
      await noteAction(this.context.database, by, "person erased in part only", person.standIn, {
        why: error instanceof Error ? person.words.without(error.message) : "",
      }).catch(() => {});
      this.fail(id, error);
    }
  }

  private async erasedBefore({ standIn }: Person): Promise<SearchState["before"]> {
    const before = await erasuresOf(this.context.database, standIn);
    return before.map(({ at, who, facts }) => ({
      at: at.toISOString(),
      by: who,
      reason: String((facts as { reason?: string }).reason ?? ""),
    }));
  }

  private fail(id: string, error: unknown): void {
    const message = error instanceof Error ? error.message : String(error);
    this.context.log.error({ error: message }, "search for a person");
    this.set(id, { state: "failed", error: message });
  }

  private search(id: string): Search {
    const found = this.searches.get(id);
    if (found) return found;
    throw new CorbixError("NOT_FOUND", say().servicePerson.cannotFindSearch({ id }), {
      where: "person-searches",
      advice: say().servicePerson.searchAgain(),
    });
  }

  private set(id: string, change: Partial<SearchState>): void {
    const found = this.searches.get(id);
    if (found) found.state = { ...found.state, ...change };
  }
}

async function summary(
  all: AsyncGenerator<Known>,
  isErasable: (known: Known) => boolean,
): Promise<readonly KnownInPlace[]> {
  const places = new Map<
    KnownPlace,
    { count: number; erasable: number; kept: Map<string, number>; examples: string[] }
  >();
  for await (const known of all) {
    const { place, count, label, kept } = known;
    const own = places.get(place) ?? { count: 0, erasable: 0, kept: new Map<string, number>(), examples: [] };
    places.set(place, own);
    own.count += count;
    if (isErasable(known)) own.erasable += count;
    if (kept !== null) own.kept.set(kept, (own.kept.get(kept) ?? 0) + count);
    if (own.examples.length < EXAMPLES) own.examples.push(label);
  }
  return [...places].map(([place, { count, erasable, kept, examples }]) => ({
    place,
    title: say().servicePerson.place({ place }),
    count,
    erasable,
    kept: [...kept].map(([why, of]) => ({ why, count: of })),
    examples,
  }));
}
