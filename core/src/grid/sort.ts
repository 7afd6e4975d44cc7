/** Sorting of row indexes by keys, stable and without comparing: least significant digits first. */

/** Rows by ascending key; `NaN` comes last either way. The rows given are put in a new order, equal keys keep theirs. */
export function sortByNumbers(rows: Uint32Array, keys: Float64Array, isDescending: boolean): Uint32Array<ArrayBuffer> {
  const bits = new Uint32Array(keys.buffer, keys.byteOffset, keys.length * 2);
  const high = new Uint32Array(rows.length);
  const low = new Uint32Array(rows.length);
  for (let at = 0; at < rows.length; at++) {
    const row = rows[at];
    let top = bits[row * 2 + 1];
    let bottom = bits[row * 2];
    if (Number.isNaN(keys[row])) {
      high[at] = low[at] = 0xffffffff;
      continue;
    }
    // Bits of a number sort as it does once negative ones are turned over.
    if (top >>> 31) {
      top = ~top >>> 0;
      bottom = ~bottom >>> 0;
    } else top = (top | 0x80000000) >>> 0;
    if (isDescending) {
      top = ~top >>> 0;
      bottom = ~bottom >>> 0;
    }
    high[at] = top;
    low[at] = bottom;
  }
  let order = Uint32Array.from(rows.keys());
  for (const [words, shift] of [
    [low, 0],
    [low, 16],
    [high, 0],
    [high, 16],
  ] as const)
    order = pass(order, words, shift);
  return order.map((at) => rows[at]);
}

/** Rows by whole keys of up to 32 bits. */
export function sortByRanks(
  rows: Uint32Array,
  ranks: Uint32Array,
  isDescending: boolean,
  last: number,
): Uint32Array<ArrayBuffer> {
  const keys = new Uint32Array(rows.length);
  for (let at = 0; at < rows.length; at++) {
    const rank = ranks[rows[at]];
    keys[at] = rank === last || !isDescending ? rank : last - 1 - rank;
  }
  let order = Uint32Array.from(rows.keys());
  order = pass(order, keys, 0);
  if (last > 0xffff) order = pass(order, keys, 16);
  return order.map((at) => rows[at]);
}

function pass(order: Uint32Array, words: Uint32Array, shift: number): Uint32Array<ArrayBuffer> {
  const counts = new Uint32Array(65_537);
  for (let at = 0; at < words.length; at++) counts[((words[at] >>> shift) & 0xffff) + 1]++;
  const sorted = new Uint32Array(order.length);
  // All keys alike in these digits: nothing to do.
  if (counts.includes(order.length)) return Uint32Array.from(order);
  for (let digit = 1; digit < counts.length; digit++) counts[digit] += counts[digit - 1];
  for (let at = 0; at < order.length; at++) {
    const digit = (words[order[at]] >>> shift) & 0xffff;
    sorted[counts[digit]++] = order[at];
  }
  return sorted;
}

const collator = new Intl.Collator("en", { numeric: true, sensitivity: "base" });

/** Beyond so many different texts the collator, which is slow, is asked only where plain letters do not decide. */
const COLLATED = 20_000;

/** For each entry of a dictionary its place in order of the alphabet; entries that count as the same share one. */
export function rankTexts(texts: readonly string[]): Uint32Array {
  const order = Array.from(texts, (_, at) => at);
  if (texts.length <= COLLATED) order.sort((a, b) => collator.compare(texts[a], texts[b]));
  else {
    // Numbers in texts of one length, such as ids, are in order as they stand.
    const isEven = texts.every((text) => text.length === texts[0].length);
    return rankKeys(texts.map((text) => (isEven ? foldLetters(text) : sortKey(text))));
  }
  const ranks = new Uint32Array(texts.length);
  order.forEach((entry, place) => {
    ranks[entry] = place;
  });
  return ranks;
}

/** So many letters of a key fit into a number that keeps their order. */
const LETTERS = 6;

/** Ranks by the letters behind what all keys share, as one number each; only keys alike there are compared whole. */
function rankKeys(keys: readonly string[]): Uint32Array {
  const shared = sharedLetters(keys);
  const numbers = Float64Array.from(keys, (key) => {
    let number = 0;
    for (let at = 0; at < LETTERS; at++) number = number * 256 + Math.min(255, key.charCodeAt(shared + at) + 1 || 0);
    return number;
  });
  const order = sortByNumbers(Uint32Array.from(keys.keys()), numbers, false);
  for (let from = 0; from < order.length; ) {
    let to = from + 1;
    while (to < order.length && numbers[order[to]] === numbers[order[from]]) to++;
    if (to - from > 1)
      order.subarray(from, to).sort((a, b) => (keys[a] < keys[b] ? -1 : keys[a] > keys[b] ? 1 : a - b));
    from = to;
  }
  const ranks = new Uint32Array(keys.length);
  for (let place = 0; place < order.length; place++) ranks[order[place]] = place;
  return ranks;
}

function sharedLetters(keys: readonly string[]): number {
  let shared = keys[0].length;
  for (const key of keys) {
    let at = 0;
    while (at < shared && at < key.length && key.charCodeAt(at) === keys[0].charCodeAt(at)) at++;
    shared = at;
  }
  return shared;
}

/** A text whose plain order is nearly the collator's: capitals and accents folded, numbers by their length first. */
function sortKey(text: string): string {
  return foldLetters(text).replace(
    /\d+/g,
    (digits) => `${String.fromCharCode(48 + Math.min(digits.length, 60))}${digits}`,
  );
}

function foldLetters(text: string): string {
  const isPlain = /^[ -~]*$/.test(text);
  return (isPlain ? text : text.normalize("NFD").replace(/\p{M}/gu, "")).toLowerCase();
}
