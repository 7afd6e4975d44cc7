/** Sums of baht and satang in Thai words: ECMA-376 part 1, 18.17.7.22. */
import { roundDecimal } from "./round.js";

const DIGITS = ["", "หนึ่ง", "สอง", "สาม", "สี่", "ห้า", "หก", "เจ็ด", "แปด", "เก้า"];
const PLACES = ["", "สิบ", "ร้อย", "พัน", "หมื่น", "แสน"];

/** Up to six digits; a one behind others, and ones and twos of tens, have words of their own. */
function belowMillion(digits: string, hasMore: boolean): string {
  let words = "";
  [...digits].forEach((digit, at) => {
    const place = digits.length - 1 - at;
    const value = Number(digit);
    if (value === 0) return;
    if (place === 1) words += `${value === 1 ? "" : value === 2 ? "ยี่" : DIGITS[value]}สิบ`;
    else if (place === 0 && value === 1 && (words !== "" || hasMore)) words += "เอ็ด";
    else words += DIGITS[value] + PLACES[place];
  });
  return words;
}

function words(whole: string): string {
  if (whole.length <= 6) return belowMillion(whole, false);
  const high = whole.slice(0, -6);
  return `${words(high)}ล้าน${belowMillion(whole.slice(-6), true)}`;
}

export function bahtText(value: number): string {
  const [whole, part] = roundDecimal(Math.abs(value), 2, "near").toFixed(2).split(".");
  const baht = Number(whole) === 0 ? "" : `${words(whole)}บาท`;
  const satang =
    Number(part) === 0 ? (baht === "" ? "ศูนย์บาทถ้วน" : "ถ้วน") : `${belowMillion(String(Number(part)), false)}สตางค์`;
  return `${value < 0 && baht + satang !== "ศูนย์บาทถ้วน" ? "ลบ" : ""}${baht}${satang}`;
}
