import { english } from "./en/index.js";

export { english };

/** Every sentence that findings, errors and explanations are made of, by room, each a function of its facts. */
export type Words = typeof english;

/** The words of a further language. What it leaves out is said in English. */
export type Translation = { readonly [Room in keyof Words]?: Partial<Words[Room]> };

let choose: () => Words = () => english;

/** The words in the language that is spoken now. */
export const say = (): Words => choose();

/** From now on words come from there; it is asked at each text, so that it may depend on whom the text is for. */
export function speak(words: () => Words): void {
  choose = words;
}

/** A translation made whole: `words.table` of it has all that the English one has. */
export function translated(translation: Translation): Words {
  const further = translation as Readonly<Record<string, object | undefined>>;
  const rooms = Object.entries<object>(english).map(([room, words]) => [room, { ...words, ...further[room] }]);
  return Object.fromEntries(rooms) as Words;
}
