import { locales } from "../words/data.js";

/** The language of the words: the first that the reader's browser asks for and there is a catalogue of, else English. */
export const wordsLanguage: string =
  globalThis.navigator?.languages
    .map((asked) => locales.find((one) => one === asked) ?? locales.find((one) => one === asked.split("-")[0]))
    .find((one) => one !== undefined) ?? "en";
