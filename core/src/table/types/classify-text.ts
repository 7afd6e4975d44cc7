import { cleanText } from "../../common/index.js";
import { readWrittenDate, readWrittenTime, type WrittenDate } from "./read-date.js";
import { readWrittenNumber, type WrittenNumber } from "./read-number.js";

/** A text looked at once: what it could be. */
export interface Judged {
  readonly clean: string;
  readonly isCode: boolean;
  readonly number?: WrittenNumber;
  readonly date?: WrittenDate;
  readonly time?: number;
  readonly truth?: boolean;
}

const TRUE = /^(true|wahr|vrai|vero|verdadero|yes|ja|oui|s[iì]|y|1|x|✓)$/i;
const FALSE = /^(false|falsch|faux|falso|no|nein|non|n|0|-)$/i;

/** Looks at a text once; a column with the same text in many rows asks for it once. */
export function classifyText(text: string): Judged {
  const clean = cleanText(text);
  // A text without a digit is a word; so is nearly every text that begins with a letter.
  if (!/\d/.test(clean)) return { clean, isCode: false, ...truth(clean) };
  if (/^0\d+$/.test(clean) || /^\d{16,}$/.test(clean)) return { clean, isCode: true };
  if (clean.length > 60) return { clean, isCode: false };
  const number = readWrittenNumber(clean);
  if (number) return { clean, isCode: false, number, ...truth(clean) };
  const date = readWrittenDate(clean);
  if (date) return { clean, isCode: false, date };
  const time = clean.includes(":") ? readWrittenTime(clean) : undefined;
  return time === undefined ? { clean, isCode: false } : { clean, isCode: false, time };
}

function truth(text: string): { truth?: boolean } {
  if (TRUE.test(text)) return { truth: true };
  return FALSE.test(text) ? { truth: false } : {};
}
